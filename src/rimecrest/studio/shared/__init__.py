"""What the places of the studio share: the session, sentences whose words are choosers, search, findings.

Nothing here knows a place.
"""
