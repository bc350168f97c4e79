"""The audit trail: who did what, when, before and after."""
