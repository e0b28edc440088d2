training-practice-lesson-ended-start-another = Esta clase de práctica ha terminado: empieza otra.
