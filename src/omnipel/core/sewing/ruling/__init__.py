"""What has to come before what."""
