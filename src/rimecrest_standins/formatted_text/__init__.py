"""Formatted text in a document: its widget, its cursor, and the commands that every such document has.

`document.py` is the document, `view.py` its widget. Commands are declared once, as `SharedDeclarations`, in
one module per subject; an application takes them over with `declare_text`, under a noun of its own.
"""
