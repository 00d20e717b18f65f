"""What other subjects may use of Parts."""
