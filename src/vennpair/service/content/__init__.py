"""Content: cartridges and the items read from them."""
