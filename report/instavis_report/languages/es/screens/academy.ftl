academy-30-days = 30 días
academy-90-days = 90 días
academy-academy-name = Nombre de la academia
academy-academy-settings = Ajustes de la academia
academy-activity-log = Registro de actividad
academy-all-table = Todo como tabla
academy-changes = Cambios
academy-data-retention = Conservación de datos
academy-deactivate = Desactivar
academy-deactivate-2 = Desactivar a { $name }
academy-deactivated = desactivado { $moment }
academy-default-language = Idioma por defecto
academy-default-units = Unidades por defecto
academy-email-off-whoever-runs-server = El correo está desactivado. Quien lleva el servidor puede indicar un servidor de correo (INSTAVIS_MAIL en docs/serving.md).
academy-films-swings-measurements-stay = Películas de swings (las medidas quedan)
academy-five-years = cinco años
academy-forever = para siempre
academy-head-coach-looks-after-people = La dirección cuida aquí de personas y ajustes.
academy-invitations-roles-passwords-exports-deletions = Invitaciones, papeles, contraseñas, copias sacadas, borrados, y qué fichas se leyeron; no se nombra a ningún alumno.
academy-invite-someone = Invitar a alguien
academy-last-sign = última entrada { $moment }
academy-lessons = { $n ->
        [one] { $n } clase
       *[other] { $n } clases
    }
academy-letter = Letter
academy-link-can-choose-new-password = { $name } elige con este enlace una contraseña nueva, una vez, dentro de un día. Solo se muestra ahora.
academy-lost-phone = Teléfono perdido
academy-lost-phone-2 = Teléfono perdido: { $name }
academy-mail-server-accepted-check-whether = El servidor de correo la ha tomado: mira si llega.
academy-never-signed = nunca ha iniciado sesión
academy-new-password = Contraseña nueva
academy-no-activity-yet = Aún no hay actividad.
academy-not-all = nada
academy-older = Más antiguas
academy-older-data-deleted-within-hour = Los datos más antiguos se eliminan en una hora.
academy-one-year = un año
academy-paper-size = Tamaño de papel
academy-password-only = , solo con contraseña
academy-password-second-factor = contraseña y un segundo factor
academy-password-second-factor-optional = contraseña, más si quieren
academy-pictures-students-answers-stay = Imágenes de alumnos; las notas quedan
academy-reactivate = Reactivar
academy-reactivate-2 = Reactivar a { $name }
academy-record-views = Fichas vistas
academy-revoke-invitation = Revocar la invitación de { $name }
academy-role = Papel
academy-role-2 = Papel de { $name }
academy-rule-will-erase-students-within = { $n ->
        [one] Dentro de treinta días se borrará { $n } alumno por esta regla, con todo lo guardado.
       *[other] Dentro de treinta días se borrarán { $n } alumnos por esta regla, con todo lo guardado.
    }
academy-second-factor = , con un segundo factor
academy-send-link-new-team-member = Envía este enlace al nuevo miembro. Sirve una vez, durante una semana, y solo se muestra ahora.
academy-send-test = Enviar prueba
academy-send-test-email = Enviar correo de prueba a
academy-sent = Enviado como { $how }.
academy-show = Mostrar
academy-sign-everyone = Inicio de sesión para todos
academy-sign-out-everywhere = Cerrar todas las sesiones de { $name }
academy-six-months = medio año
academy-students-who-no-longer-come = Alumnos que ya no vienen, en años desde entonces
academy-team = Equipo
academy-two-years = dos años
academy-until = { $name }, { $role }, hasta { $moment }
academy-you = (tú)
