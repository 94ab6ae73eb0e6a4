"""What the product makes, met with what the simulated authorities accept: run under the settings of the authorities."""
