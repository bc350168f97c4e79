"""Deploying: what a rollout will do, decided before anything is done."""
