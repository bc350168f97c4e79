"""The campus stand-in: a small course platform that speaks LTI 1.3 Advantage and the Shell Outline
protocol.
"""
