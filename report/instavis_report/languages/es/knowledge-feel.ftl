feel-stuck-label = Atrapado atrás
feel-hang-back-label = Se queda en el lado trasero
feel-flip-label = Las manos voltean
feel-no-room-label = Sin sitio para los brazos
feel-lunge-label = Lanzarse hacia ella
