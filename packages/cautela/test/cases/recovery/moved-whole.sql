-- hazards: no-way-back
-- tables
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, code varchar(10));
CREATE TABLE berth_2025 (berth_id integer NOT NULL PRIMARY KEY, code varchar(10));
-- case: rows are switched into another table [tsql]
-- finds: 0 no-way-back note
ALTER TABLE berth SWITCH PARTITION 3 TO berth_2025;
-- case: rows change places [plsql]
-- finds: 0 no-way-back note
ALTER TABLE berth EXCHANGE PARTITION p_2025 WITH TABLE berth_2025;
-- case: a table is taken back in time [plsql]
-- finds: 0 no-way-back ask
FLASHBACK TABLE berth TO TIMESTAMP SYSTIMESTAMP - INTERVAL '1' HOUR;
-- case: a dropped table is brought back [plsql]
FLASHBACK TABLE berth TO BEFORE DROP;
-- case: a copy stands before [plsql]
CREATE TABLE berth_before AS SELECT * FROM berth;
FLASHBACK TABLE berth TO TIMESTAMP SYSTIMESTAMP - INTERVAL '1' HOUR;
