"""What an application carries to understand layouts.

An application declares itself (`Declarations`), makes a document (`Document`) and hands both to
`run_application`; hotkeys, macros, undo, documents and what it answers over the link come from here. Its
toolbars, tabs and menus are drawn by `surfaces`.
"""
