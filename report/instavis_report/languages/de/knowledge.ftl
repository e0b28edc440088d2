knowledge-most-entries = höchstens { $most } Einträge
knowledge-nothing-differs-current-version = Nichts unterscheidet sich von der aktuellen Fassung.
knowledge-one-fault-partner-check-drill = eines von fault, partner, check, drill, window
knowledge-table-entry-field-value = Tabelle → Eintrag → Feld → Wert
