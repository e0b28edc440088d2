account-academy-needs-head-coach-give = The academy needs a head coach. Give someone else this role first.
account-academys-name = the academy's name
account-account-deactivated-reactivate-first = This account is deactivated. Reactivate it first.
account-app-already-set-up-remove = An app is already set up. Remove it first.
account-authenticator-app-added = An authenticator app was added.
account-authenticator-app-removed = The authenticator app was removed.
account-between = between { $least } and { $most }
account-birthday-between-3-110-years = a birthday between 3 and 110 years ago
account-can-send-email-here = { $academy } can send email from here.
account-code-wrong-already-used = This code is wrong or was already used.
account-code-wrong-check-clock-your = This code is wrong. Check the clock of your phone.
account-email-address-changed = The email address was changed to { $detail }.
account-email-address-such-name-example = an email address such as name@example.org
account-enter-your-password-again-first = Enter your password again first.
account-if-you-nothing-do-if = 
    { $name },

    { $what }

    If this was you, there is nothing to do. If not, change your password in your account and sign out everywhere else, or ask your head coach.

    { $academy }
account-invitation-expired-ask-head-coach = This invitation has expired. Ask the head coach for a new one.
account-junior-enter-guardian-who-consented = For a junior, enter the guardian who consented before anything is stored.
account-junior-enter-guardian-who-consents = For a junior, enter the guardian who consents first.
account-key-must-1-characters = The key must have 1 to { $most } characters.
account-key-not-letter-digit = a key that is not a letter or digit
account-key-used-another-request = This key was used for another request.
account-link-expired-ask-head-coach = This link has expired. Ask the head coach for a new one.
account-link-expired-request-new-one = This link has expired. Request a new one in your account.
account-mail-server-refused = The mail server refused it: { $text }
account-most-keys = at most { $most } keys
account-name-most-120-characters = a name of at most 120 characters
account-new-password = New password for { $academy }
account-new-recovery-codes-created-old = New recovery codes were created; the old ones no longer work.
account-no-second-factor = { $name } has no second factor.
account-old-password-wrong = The old password is wrong.
account-only-coaches-can-do-desk = Only coaches can do this. The desk books lessons and prints pages.
account-only-head-coach-can-do = Only the head coach can do this.
account-open-lesson-hand-changed-wrong = { $name } has an open lesson. Was the hand changed, or was it wrong from the start?
account-open-link-within-day-confirm = 
    { $name },

    open this link within a day to confirm that Instavis may write to you here:

    { $link }

    { $academy }
account-passkey-added = A passkey was added: { $detail }.
account-passkey-not-accepted-try-again = This passkey was not accepted. Try again, or use your password.
account-passkey-removed = A passkey was removed.
account-password-changed = The password was changed.
account-password-reset-link = The password was reset with a link.
account-password-wrong = The password is wrong.
account-recovery-code-used-sign = A recovery code was used to sign in.
account-recovery-codes-need-app-passkey = Recovery codes need an app or a passkey. Set one up first.
account-removed-all-second-factors = { $detail } removed all second factors.
account-server-sends-no-email-ask = This server sends no email. Ask your head coach for a link.
account-set-up-your-own-second = Set up your own second factor first. Otherwise you would lock yourself out.
account-sign-new-browser = Sign-in from a new browser: { $detail }.
account-student-not-agreed-filmed-film = The student has not agreed to be filmed. The film was not stored.
account-students-name = the student's name
account-test-email = Test email
account-time-zone-such-europe-dublin = a time zone such as Europe/Dublin
account-too-many-attempts-wait-15 = Too many attempts. Wait 15 minutes, or ask the head coach.
account-too-many-invitations-open-revoke = Too many invitations are open. Revoke some first.
account-took-too-long-sign-your = That took too long. Sign in with your password again.
account-use-link-choose-new-password = 
    { $name },

    use this link to choose a new password for { $username }. It works once, within a day:

    { $link }

    If you did not ask for it, you can ignore this email.

    { $academy }
account-username-not-taken = a username that is not taken
account-username-password-wrong = The username or password is wrong.
account-you-ten-passkeys-remove-one = You have ten passkeys. Remove one first.
account-your-academy-requires-second-factor = Your academy requires a second factor. Set one up in your account.
account-your-account = Your account at { $academy }
account-your-address = Is this your address?
