"""Letters: formatted text, with tables and notes beside the text; opens and saves HTML.

`declarations` is what it can do; `LetterDocument` is what it does it to. Commands stand in one module per
subject and need nothing else anywhere.
"""
