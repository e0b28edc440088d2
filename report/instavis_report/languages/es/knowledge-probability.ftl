probability-1 = muy probable
probability-2 = probable
probability-3 = posible
probability-4 = menos probable
probability-5 = improbable
