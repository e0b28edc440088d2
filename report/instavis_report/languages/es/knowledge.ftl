knowledge-most-entries = como mucho { $most } entradas
knowledge-nothing-differs-current-version = Nada se diferencia de la versión que vale ahora.
knowledge-one-fault-partner-check-drill = uno de fault, partner, check, drill, window
knowledge-table-entry-field-value = tabla → entrada → campo → valor
