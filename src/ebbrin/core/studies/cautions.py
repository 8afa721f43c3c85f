"""From where on something is worth a word beside the verdict; all SI. Who says it stands above the core."""

from __future__ import annotations

MOST_RISE = 12.0  # common practice: rise of the coolant through the engine, thermostat wide open, K
SIPHON_RISE = 35.0  # common practice: the same where there is no pump, K
POWER_SCATTER = 1.05  # choice: how far an engine may be asked past what the guess at its torque gives, -
EROSION_VELOCITY = 2.5  # choice: in the tubes, m/s
BETWEEN_REGIMES = (2100.0, 4000.0)
"""Reynolds numbers of the tubes between which a few percent of flow move the heat more than usual [-]: below the
transition's own start (ducts.py), because the flow of a case is known no better."""
