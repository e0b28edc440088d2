contact-thin-label = Fina
contact-fat-label = Gorda
contact-heel-label = Talón
contact-toe-label = Punta
contact-shank-label = Socket
contact-low-label = Bajo en la cara
contact-high-label = Alto en la cara
contact-glancing-label = Roce
