knowledge-most-entries = at most { $most } entries
knowledge-nothing-differs-current-version = Nothing differs from the current version.
knowledge-one-fault-partner-check-drill = one of fault, partner, check, drill, window
knowledge-table-entry-field-value = table → entry → field → value
