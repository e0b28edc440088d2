account-academy-needs-head-coach-give = Die Akademie braucht eine Leitung: mach erst jemand anderen dazu.
account-academys-name = der Name der Akademie
account-account-deactivated-reactivate-first = Dieses Konto ist deaktiviert. Reaktiviere es zuerst.
account-app-already-set-up-remove = Es gibt schon eine App. Entferne sie zuerst.
account-authenticator-app-added = Eine Authenticator-App kam hinzu.
account-authenticator-app-removed = Die Authenticator-App wurde entfernt.
account-between = zwischen { $least } und { $most }
account-birthday-between-3-110-years = ein Geburtstag vor 3 bis 110 Jahren
account-can-send-email-here = { $academy } kann von hier E-Mail verschicken.
account-code-wrong-already-used = Dieser Code passt nicht, oder er wurde schon benutzt.
account-code-wrong-check-clock-your = Dieser Code passt nicht. Geht die Uhr des Telefons richtig?
account-email-address-changed = Die E-Mail-Adresse wurde zu { $detail }.
account-email-address-such-name-example = eine E-Mail-Adresse wie name@example.org
account-enter-your-password-again-first = Gib zuerst dein Passwort noch einmal ein.
account-if-you-nothing-do-if = 
    { $name },

    { $what }

    Warst du das, ist nichts zu tun. Wenn nicht, ändere dein Passwort in deinem Konto und melde dich überall sonst ab, oder frag deine Leitung.

    { $academy }
account-invitation-expired-ask-head-coach = Diese Einladung ist abgelaufen. Bitte die Leitung um eine neue.
account-junior-enter-guardian-who-consented = Gib bei Minderjährigen an, wer zugestimmt hat, bevor etwas gespeichert wird.
account-junior-enter-guardian-who-consents = Gib bei Minderjährigen zuerst an, wer zustimmt.
account-key-must-1-characters = Der Schlüssel muss 1 bis { $most } Zeichen haben.
account-key-not-letter-digit = eine Taste, die kein Buchstabe und keine Ziffer ist
account-key-used-another-request = Dieser Schlüssel wurde für eine andere Anfrage benutzt.
account-link-expired-ask-head-coach = Dieser Link ist abgelaufen. Bitte die Leitung um einen neuen.
account-link-expired-request-new-one = Dieser Link ist abgelaufen. Bitte auf deiner eigenen Seite um einen neuen.
account-mail-server-refused = Der Mailserver hat sie abgelehnt: { $text }
account-most-keys = höchstens { $most } Schlüssel
account-name-most-120-characters = ein Name von höchstens 120 Zeichen
account-new-password = Ein neues Passwort für { $academy }
account-new-recovery-codes-created-old = Neue Wiederherstellungscodes wurden gemacht; die alten gelten nicht mehr.
account-no-second-factor = { $name } hat keinen zweiten Faktor.
account-old-password-wrong = Das alte Passwort stimmt nicht.
account-only-coaches-can-do-desk = Das ist für Trainer: der Empfang bucht und druckt.
account-only-head-coach-can-do = Das darf nur die Leitung.
account-open-lesson-hand-changed-wrong = { $name } hat eine offene Stunde. Wurde die Hand gewechselt, oder war sie von Anfang an falsch?
account-open-link-within-day-confirm = 
    { $name },

    öffne diesen Link innerhalb eines Tages, um zu bestätigen, dass Instavis dir hierher schreiben darf:

    { $link }

    { $academy }
account-passkey-added = Ein Passkey kam hinzu: { $detail }.
account-passkey-not-accepted-try-again = Dieser Passkey wurde nicht angenommen. Versuch es noch einmal, oder nimm dein Passwort.
account-passkey-removed = Ein Passkey wurde entfernt.
account-password-changed = Das Passwort wurde geändert.
account-password-reset-link = Das Passwort wurde über einen Link neu gewählt.
account-password-wrong = Das Passwort stimmt nicht.
account-recovery-code-used-sign = Ein Wiederherstellungscode wurde zum Anmelden benutzt.
account-recovery-codes-need-app-passkey = Wiederherstellungscodes stehen für eine App oder einen Passkey: richte zuerst eines davon ein.
account-removed-all-second-factors = { $detail } hat alle zweiten Faktoren entfernt.
account-server-sends-no-email-ask = Dieser Server verschickt keine E-Mails. Bitte deine Leitung um einen Link.
account-set-up-your-own-second = Richte zuerst für dich selbst einen zweiten Faktor ein. Sonst sperrst du dich aus.
account-sign-new-browser = Anmeldung von einem neuen Browser: { $detail }.
account-student-not-agreed-filmed-film = Der Schüler ist nicht damit einverstanden, gefilmt zu werden. Der Film wurde nicht gespeichert.
account-students-name = der Name des Schülers
account-test-email = Test-E-Mail
account-time-zone-such-europe-dublin = eine Zeitzone wie Europe/Dublin
account-too-many-attempts-wait-15 = Zu viele Versuche. Warte 15 Minuten, oder frag die Leitung.
account-too-many-invitations-open-revoke = Zu viele Einladungen sind offen. Nimm erst einige zurück.
account-took-too-long-sign-your = Das dauerte zu lange. Beginn noch einmal mit deinem Passwort.
account-use-link-choose-new-password = 
    { $name },

    mit diesem Link wählst du ein neues Passwort für { $username }. Er funktioniert einmal, innerhalb eines Tages:

    { $link }

    Wenn du ihn nicht angefordert hast, kannst du diese E-Mail ignorieren.

    { $academy }
account-username-not-taken = ein Benutzername, den niemand hat
account-username-password-wrong = Benutzername oder Passwort stimmt nicht.
account-you-ten-passkeys-remove-one = Du hast zehn Passkeys. Entferne erst einen.
account-your-academy-requires-second-factor = Deine Akademie verlangt einen zweiten Faktor. Richte ihn in deinem Konto ein.
account-your-account = Dein Konto bei { $academy }
account-your-address = Ist das deine Adresse?
