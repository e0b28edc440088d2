probability-1 = sehr wahrscheinlich
probability-2 = wahrscheinlich
probability-3 = möglich
probability-4 = weniger wahrscheinlich
probability-5 = unwahrscheinlich
