"""The program's place on a person's desktop: launcher, icon, file types, manual, completion; put there, and taken away without a trace."""
