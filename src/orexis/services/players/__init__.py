"""Who plays, what, and how they want to be led and judged."""
