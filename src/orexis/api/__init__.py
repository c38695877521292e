"""The edge: routes, the live socket, who may talk to us."""
