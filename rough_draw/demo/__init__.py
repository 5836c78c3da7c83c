"""Demo data: invented firms, people, systems and their computed readings."""
