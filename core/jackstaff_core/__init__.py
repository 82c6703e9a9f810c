"""The rules of the job: scales, densities, exposure sums and what follows from them.

Standard library only: no web framework, no input or output, no clock of its own. Every
question is a function from plain values to a frozen dataclass, so that a server, a browser
engine and a test ask the very same code.
"""

VERSION = "0.1.0"
