skill-scratch-label = 0 a 5
skill-mid-label = 6 a 18
skill-learner-label = 19 o más
