"""Deploy: rollouts of items into a shell, step by step."""
