"""Grid: sheets in a workbook, with formulas and notes; opens and saves OpenDocument spreadsheets and CSV.

`book` is the data, `formulas` works formulas out, `files` reads and writes; none of them knows Qt.
`document` and `view` show it; commands stand in one module per subject and need nothing else anywhere.
"""
