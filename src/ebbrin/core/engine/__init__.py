"""What the engine must deliver and the heat that this sends into the coolant."""
