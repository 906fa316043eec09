"""Post: messages in a maildir, read and written; nothing ever leaves the computer.

`declarations` is what it can do. `MailboxDocument` is the window's first document, the mailbox, and stays;
each message that is written is a `MessageDocument` beside it.
"""
