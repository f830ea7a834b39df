-- hazards: wrong-target hollow-filter no-way-back
-- no catalog
-- case: the conditions refer to the other table [postgresql]
-- finds: 0 wrong-target stop
DELETE FROM tram t USING depot d WHERE d.town = 'Ulm';
-- case: every row meets itself [mysql mariadb]
-- finds: 0 hollow-filter stop
DELETE x FROM tram x JOIN tram y ON x.name = y.name;
-- case: all copies but the first [mysql mariadb]
-- finds: 0 no-way-back note
DELETE x FROM tram x JOIN tram y ON x.name = y.name AND x.tram_id > y.tram_id;
