"""Simulated devices and services, named as such on screen, behind the protocols of real ones."""
