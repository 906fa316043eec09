"""Giving an item its picture: one that is found, drawn, imported, pasted, or made of letters."""
