"""The order of work: what is done, in which order, how long it takes and what to mind."""
