"""Pages of a return. Each view reads a request, calls a service and draws its answer."""
