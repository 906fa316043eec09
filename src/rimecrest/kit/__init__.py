"""What an application carries to understand layouts.

An application declares itself (`Declarations`), makes a document (`Document`) and hands both to
`run_application`; hotkeys, macros, undo, documents and what it answers over the link come from here. Its
toolbars, tabs and menus are drawn by `surfaces`.

Public, for any application, are `declare`, `program` and `profile_record`; `commands.result`,
`commands.leaving` and `commands.verb_shorthand`; `panels.fields`; and everything in `documents` but
`open_documents`, `document_row` and `document_methods`. The rest may change.
"""
