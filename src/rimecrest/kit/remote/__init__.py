"""What an application answers over the link, and how it finds the studio."""
