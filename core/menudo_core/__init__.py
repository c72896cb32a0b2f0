"""The rules and the computation of Menudo: pure functions, no I/O, no clock, no dice."""
