"""What is printed: sheets, and the pages of lists."""
