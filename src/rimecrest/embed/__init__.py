"""What an application carries to understand layouts.

An application declares itself (`Declarations`), makes a document (`AppDocument`) and hands both to
`run_application`; toolbars, tabs, right-click menus, hotkeys, macros, undo and the link come from here. The
studio draws its stage with the same `surfaces`.
"""
