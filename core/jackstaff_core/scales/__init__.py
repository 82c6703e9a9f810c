"""The ladders of shutter, aperture and ISO, times in words, and how finely a reading is known."""
