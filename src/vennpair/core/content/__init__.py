"""Understanding content: which entry of a cartridge is which item of the homework course."""
