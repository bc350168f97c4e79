"""The rules of the job, pure: plain values in, decisions out; no I/O, no framework, no clock."""
