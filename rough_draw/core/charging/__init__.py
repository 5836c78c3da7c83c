"""The charge: what to weigh in, how it goes on the scale, superheat and subcooling after."""
