"""What has changed, told to every open page by one stream."""
