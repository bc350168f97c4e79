"""Jobs with progress, their sweeper, and health."""
