"""The Qt interface: the window and the stations of the bench."""
