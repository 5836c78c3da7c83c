"""What is computed ahead of a draw: curve and band, chokes, better rigs, breaks, the day, the next step."""
