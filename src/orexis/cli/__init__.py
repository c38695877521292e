"""The command line: one module for each group of commands, loaded when one is called."""
