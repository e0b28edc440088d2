account-academy-needs-head-coach-give = La academia necesita una dirección: nombra antes a otra persona.
account-academys-name = el nombre de la academia
account-account-deactivated-reactivate-first = Quien se fue no necesita contraseña. Déjale volver antes.
account-app-already-set-up-remove = Ya hay una aplicación. Quítala antes.
account-authenticator-app-added = Se añadió una aplicación de autenticación.
account-authenticator-app-removed = Se quitó la aplicación de autenticación.
account-between = entre { $least } y { $most }
account-birthday-between-3-110-years = una fecha de nacimiento de hace 3 a 110 años
account-can-send-email-here = { $academy } puede enviar correo desde aquí.
account-code-wrong-already-used = Este código no encaja, o ya se usó.
account-code-wrong-check-clock-your = Este código no encaja. ¿Va bien el reloj del teléfono?
account-email-address-changed = El correo pasó a ser { $detail }.
account-email-address-such-name-example = un correo como name@example.org
account-enter-your-password-again-first = Muestra antes que eres tú: escribe otra vez tu contraseña.
account-if-you-nothing-do-if = 
    { $name }:

    { $what }

    Si fuiste tú, todo está bien. Si no, elige otra contraseña en tu propia página y cierra las demás sesiones, o pregunta a la dirección.

    { $academy }
account-invitation-expired-ask-head-coach = Esta invitación ha terminado. Pide otra a la dirección.
account-junior-enter-guardian-who-consented = Para un menor hace falta el nombre de quien dio su consentimiento antes de guardar nada.
account-junior-enter-guardian-who-consents = Di antes quién dio su consentimiento por el menor.
account-key-must-1-characters = La clave debe tener de 1 a { $most } caracteres.
account-key-not-letter-digit = una tecla que no sea letra ni cifra
account-key-used-another-request = Esta clave se usó para otra petición.
account-link-expired-ask-head-coach = Este enlace ha terminado. Pide otro a la dirección.
account-link-expired-request-new-one = Este enlace ha terminado. Pide otro en tu propia página.
account-mail-server-refused = No se admitió: { $text }
account-most-keys = como mucho { $most } claves
account-name-most-120-characters = un nombre de 120 caracteres como mucho
account-new-password = Una contraseña nueva para { $academy }
account-new-recovery-codes-created-old = Se hicieron códigos de recuperación nuevos; los viejos ya no valen.
account-no-second-factor = { $name } no tiene segundo factor.
account-old-password-wrong = La contraseña vieja no es correcta.
account-only-coaches-can-do-desk = Esto es para profesores: la recepción reserva e imprime.
account-only-head-coach-can-do = Esto solo lo puede hacer la dirección.
account-open-lesson-hand-changed-wrong = Hay una clase de { $name } abierta. ¿Debe quedar como empezó, o estaba mal la mano?
account-open-link-within-day-confirm = 
    { $name }:

    abre este enlace dentro de un día, e Instavis te escribirá aquí:

    { $link }

    { $academy }
account-passkey-added = Se añadió una llave de acceso: { $detail }.
account-passkey-not-accepted-try-again = No se admitió esta llave de acceso. Inténtalo otra vez, o usa tu contraseña.
account-passkey-removed = Se quitó una llave de acceso.
account-password-changed = Se cambió la contraseña.
account-password-reset-link = Se eligió una contraseña nueva con un enlace.
account-password-wrong = La contraseña no es correcta.
account-recovery-code-used-sign = Se usó un código de recuperación para entrar.
account-recovery-codes-need-app-passkey = Los códigos de recuperación sustituyen a una aplicación o a una llave de acceso: pon antes una de las dos.
account-removed-all-second-factors = { $detail } quitó todos los segundos factores.
account-server-sends-no-email-ask = Esta instalación no envía correo. Pide un enlace a la dirección.
account-set-up-your-own-second = Configura primero un segundo factor para ti. Si no, te quedarías fuera.
account-sign-new-browser = Entrada desde un navegador desconocido: { $detail }.
account-student-not-agreed-filmed-film = El alumno no ha aceptado ser filmado. El vídeo no se guardó.
account-students-name = el nombre del alumno
account-test-email = Correo de prueba
account-time-zone-such-europe-dublin = una zona horaria como Europe/Dublin
account-too-many-attempts-wait-15 = Demasiados intentos. Espera un cuarto de hora, o pregunta a la dirección.
account-too-many-invitations-open-revoke = Hay demasiadas invitaciones abiertas. Retira antes algunas.
account-took-too-long-sign-your = Tardó demasiado. Empieza otra vez con tu contraseña.
account-use-link-choose-new-password = 
    { $name }:

    aquí se elige una contraseña nueva para { $username }, una vez, dentro de un día:

    { $link }

    ¿Nadie la pidió? Entonces no hay que hacer nada.

    { $academy }
account-username-not-taken = un nombre de usuario que no tenga nadie
account-username-password-wrong = El nombre de usuario o la contraseña no son correctos.
account-you-ten-passkeys-remove-one = Diez llaves de acceso bastan. Quita antes una.
account-your-academy-requires-second-factor = Esta academia pide un segundo factor: ponlo en tu propia página.
account-your-account = Tu cuenta en { $academy }
account-your-address = ¿Es esta tu dirección?
