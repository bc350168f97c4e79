"""One use case a file: each checks, opens the transaction, writes, audits and enqueues."""
