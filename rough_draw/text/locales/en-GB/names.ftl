## Where British English differs.

link-thermostatic-valve = thermostatic expansion valve (TEV)
