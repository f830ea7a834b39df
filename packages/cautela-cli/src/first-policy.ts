/** The first policy of a team: nothing is in force until it is uncommented. Every commented entry is a valid one. */
export const FIRST_POLICY = `# yaml-language-server: $schema=node_modules/cautela-cli/policy.schema.json
# What this team has agreed on for its change scripts. Cautela finds this file from each script upwards; a file nearer to
# the script refines those farther away. \`cautela policy SCRIPT\` prints what is in force, and where it stands.
# In patterns of tables and scripts, * stands for any characters.

# The language of the scripts: postgresql, mysql, mariadb, sqlite, tsql, plsql or jet.
# dialect: postgresql

# What the database holds before the scripts: DDL files, a snapshot, or a database URL.
# catalog: schema.sql

# Which files of a folder are scripts, and in which order they run.
# scripts:
#   files: ["*.sql"]
#   undo: ["*.undo.sql", "*_down.sql"]   # they take others back, and are judged as that
#   index: order.txt                     # a script on each line; by their numbers if left out

# What kind of data a table holds: business (if nothing is said), log, scratch, regenerable or single-row.
# tables:
#   tide_reading: log
#   import_*: scratch

# How much a hazard weighs here: stop, ask, note or off. \`cautela hazards\` lists them.
# weights:
#   hard-delete: stop
#   weak-filter: "off"

# Columns on which every change of a table must filter.
# unfiltered-by:
#   mooring: port_id

# Tables of which a statement may change one row only.
# one-by-one: [tariff]

# The most rows that a statement may change without an expectation ("-- cautela: expect 7 rows").
# row-bounds:
#   "*": 1000

# How copies are named. Where all tables are kept anyway, say where: nothing needs a copy of its own then.
# backup:
#   name: "{table}_before_{date}"
#   elsewhere: the nightly dump

# Session settings that hold when a script begins.
# settings:
#   search_path: harbour

# Scripts of a first installation: all that they make is their own.
# install: ["install/*"]

# Statements that are not to be run, with the reason that the finding gives.
# forbidden:
#   - statement: [truncate, drop table]
#     because: Tables are emptied and dropped by the archive job alone.

# When nothing is to be changed. It is held against --date.
# freeze:
#   - days: [fri]
#     hours: 14:00-24:00
#     because: Nobody is there to put it right over the weekend.
#   - from: 2026-12-20
#     to: 2027-01-06
#     because: The year is being closed.

# What holds for some scripts, or for some tables, only.
# rules:
#   - scripts: billing/*
#     dialect: mysql
#   - tables: import_*
#     weights: { every-row: note }
`;
