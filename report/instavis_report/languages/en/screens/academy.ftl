academy-30-days = 30 days
academy-90-days = 90 days
academy-academy-name = Academy name
academy-academy-settings = Academy settings
academy-activity-log = Activity log
academy-all-table = All as a table
academy-changes = Changes
academy-data-retention = Data retention
academy-deactivate = Deactivate
academy-deactivate-2 = Deactivate { $name }
academy-deactivated = deactivated { $moment }
academy-default-language = Default language
academy-default-units = Default units
academy-email-off-whoever-runs-server = Email is off. Whoever runs this server can set a mail server (INSTAVIS_MAIL in docs/serving.md).
academy-films-swings-measurements-stay = Films of swings (measurements stay)
academy-five-years = five years
academy-forever = forever
academy-head-coach-looks-after-people = The head coach looks after people and settings here.
academy-invitations-roles-passwords-exports-deletions = Invitations, roles, passwords, exports, deletions, and whose record was viewed. No student names.
academy-invite-someone = Invite someone
academy-last-sign = last sign-in { $moment }
academy-lessons = { $n ->
        [one] { $n } lesson
       *[other] { $n } lessons
    }
academy-letter = Letter
academy-link-can-choose-new-password = With this link { $name } can choose a new password, once, within a day. The link is shown only now.
academy-lost-phone = Lost phone
academy-lost-phone-2 = Lost phone: { $name }
academy-mail-server-accepted-check-whether = The mail server accepted it. Check whether it arrives.
academy-never-signed = never signed in
academy-new-password = New password
academy-no-activity-yet = No activity yet.
academy-not-all = not at all
academy-older = Older
academy-older-data-deleted-within-hour = Older data is deleted within an hour.
academy-one-year = one year
academy-paper-size = Paper size
academy-password-only = , password only
academy-password-second-factor = password and second factor
academy-password-second-factor-optional = password, second factor optional
academy-pictures-students-answers-stay = Pictures of students (answers stay)
academy-reactivate = Reactivate
academy-reactivate-2 = Reactivate { $name }
academy-record-views = Record views
academy-revoke-invitation = Revoke the invitation of { $name }
academy-role = Role
academy-role-2 = Role of { $name }
academy-rule-will-erase-students-within = { $n ->
        [one] This rule will erase { $n } student within 30 days, with everything stored about them.
       *[other] This rule will erase { $n } students within 30 days, with everything stored about them.
    }
academy-second-factor = , with a second factor
academy-send-link-new-team-member = Send this link to the new team member. It works once, for a week, and is shown only now.
academy-send-test = Send test
academy-send-test-email = Send a test email to
academy-sent = Sent by { $how }.
academy-show = Show
academy-sign-everyone = Sign-in for everyone
academy-sign-out-everywhere = Sign out { $name } everywhere
academy-six-months = six months
academy-students-who-no-longer-come = Students who no longer come, after their last visit
academy-team = Team
academy-two-years = two years
academy-until = { $name }, { $role }, until { $moment }
academy-you = (you)
