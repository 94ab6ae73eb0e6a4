"""What the product makes, met with what the simulated authorities accept: run under the settings of the authorities."""

import gc

gc.set_threshold(500_000, 10, 10)  # results are circles: looking for them more often takes a fifth of the time
