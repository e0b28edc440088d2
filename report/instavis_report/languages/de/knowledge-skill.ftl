skill-scratch-label = 0 bis 5
skill-mid-label = 6 bis 18
skill-learner-label = 19 und mehr
