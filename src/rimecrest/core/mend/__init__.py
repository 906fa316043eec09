"""From a finding to the edits that would mend it: `fixes`, by the remedies that its kind's row names."""
