"""Energy in against energy out: panels in the sun, chargers, cranks, by the day and over the worst week."""
