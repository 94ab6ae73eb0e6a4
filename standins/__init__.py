"""Stand-ins for outside services that are no authority: clients' mailboxes and a service that checks identity."""
