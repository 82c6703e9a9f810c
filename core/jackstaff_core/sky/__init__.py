"""Sun, moon and sky at a place: daylight, ridges, forecasts, what can be believed of them, waiting for a light."""
