# How the language is written.
nouns-keep-capitals = no
quoted = “{ $words }”
