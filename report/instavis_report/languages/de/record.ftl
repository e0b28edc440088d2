record-before-now-change-between-90 = { $what }: vorher { $before }, jetzt { $now }. Die Änderung liegt zwischen { $low } und { $high } (90 %).
record-moment-two-swings-differ-less = In diesem Moment unterscheiden sich die Schwünge um weniger, als eine Kamera messen kann.
