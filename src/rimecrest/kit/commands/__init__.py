"""Commands of an application: performing and finding them, and what they reach outside."""
