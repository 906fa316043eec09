"""Pictures on buttons: which are taken, how others are brought in, drawn, found and compared.

`checked` is the one door: whatever is stored, packaged or drawn passes it. `plain_svg` and `images` bring in
what other programs made, `drawing` is the pixel grid, `looks` tells what is seen of a picture, `index` finds
those of the free sets.
"""
