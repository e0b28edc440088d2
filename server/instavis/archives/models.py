"""Nothing is kept here: the lines of the audit, which began here, are with the academy's people."""
