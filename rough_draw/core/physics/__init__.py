"""Relations of gas, water, tubes and refrigerants: scalar functions in SI, each with its source and range."""
