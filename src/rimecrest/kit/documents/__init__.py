"""What an application works in: documents, their undo, and the commands that documents share."""
