"""What an application can do: its commands, readings, contexts, own surfaces and own hotkeys.

An application writes its catalogue from its declarations (`kit.commands.declare`); everybody else reads it.
"""
