-- hazards: no-way-back
-- no catalog
-- case: a file takes the place of rows [mysql mariadb]
-- finds: 0 no-way-back note
LOAD DATA INFILE '/tmp/buoys.csv' REPLACE INTO TABLE buoys FIELDS TERMINATED BY ',';
-- case: a file adds rows [mysql mariadb]
LOAD DATA INFILE '/tmp/buoys.csv' INTO TABLE buoys FIELDS TERMINATED BY ',';
