"""Coolant from the pump round to the pump: resistances, flow, thermostat, fan switch, cap."""
