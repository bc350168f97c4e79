"""What needs somebody today, across all shells."""
