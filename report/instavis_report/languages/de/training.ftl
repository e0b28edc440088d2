training-practice-lesson-ended-start-another = Diese Übungsstunde ist beendet: beginn eine andere.
