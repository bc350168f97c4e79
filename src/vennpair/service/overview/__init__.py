"""What one sees across all shells: what needs one today, and the search."""
