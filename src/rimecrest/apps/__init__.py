"""The stand-in applications of the demo. Each is only a document and its commands; the rest is `embed`."""
