"""The report: one evacuation on paper, for a customer, an inspector and a lawyer."""
