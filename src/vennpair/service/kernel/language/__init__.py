"""What the service says, in the reader's language."""
