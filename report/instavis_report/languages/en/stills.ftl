stills-b-length-cm = a, b and length_cm
stills-cm = { FIXED($least, digits: 0) } to { FIXED($most, digits: 0) } cm
stills-end-least-pixels-other = an end at least { FIXED($shortest, digits: 0) } pixels from the other
stills-landmark-x-y = landmark → [x, y]
stills-length-picture = a length on the picture
stills-point-within-pixels = a point within { $width } × { $height } pixels
stills-still-pixels-same-camera = a still of { $width } × { $height } pixels from the same camera
