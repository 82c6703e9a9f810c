"""How questions and documents are read, refused and described as JSON."""
