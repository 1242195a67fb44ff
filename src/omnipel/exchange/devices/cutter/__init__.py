"""The simulated cutter, and the link that instructions are sent over; docs/cutter-protocol.md tells how they speak."""
