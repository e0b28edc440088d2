"""Take home: the page the student leaves with."""
