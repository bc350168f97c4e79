"""Endpoints of deploying: plans and rollouts, placements, order, drift, the learner's view,
averages, picking.
"""
