"""The endpoints of setting up."""
