"""Running Impuesto on a machine: set-up, start and stop, tests, bench, backup. Nothing here knows a tax rule or a record."""
