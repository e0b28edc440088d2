# How the language is written.
nouns-keep-capitals = yes
quoted = „{ $words }“
