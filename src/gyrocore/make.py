"""Of which make the calculations are."""

#: Raised by one whenever a figure would come out otherwise than before; a signed verdict keeps its own.
CALCULATIONS = "1"
