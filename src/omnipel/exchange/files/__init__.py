"""Files for other programs and machines."""
