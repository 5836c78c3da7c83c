"""What is said beside the plan: findings with fixes, what to carry, cord, drawing, small answers, words."""
