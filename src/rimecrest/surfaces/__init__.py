"""The surfaces that a colleague sees: bars, ribbon tabs, right-click menus, drawn from an `Outcome`.

`Frame` is the whole window but its document. The application puts its document into it; the studio's stage
puts a picture there. There is no second renderer.
"""
