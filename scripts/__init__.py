"""Scripts behind the make targets."""
