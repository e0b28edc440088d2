training-practice-lesson-ended-start-another = This practice lesson has ended. Start another one.
