"""What is learnt of a cover that was tried on: sizes made, why they are off, what can be done, what the next one should do differently."""
