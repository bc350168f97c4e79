"""What every endpoint shares: errors, sign-in, paging, idempotency, the schema's root."""
