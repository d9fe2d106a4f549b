"""SQLite through peewee: models, queries, migrations, backup. Gathers a Situation, saves Evidence; judges nothing."""
