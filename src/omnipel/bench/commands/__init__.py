"""What a person can do, and the dialogs that ask for it."""
