-- hazards: open-join off-key-join
-- no catalog
-- case: a third table without a tie [mysql mariadb]
-- finds: 0 open-join ask
UPDATE stay s, boat b, owner o SET s.fee = 0 WHERE s.boat_id = b.boat_id AND o.left_on IS NOT NULL;
-- case: two tables without a tie [postgresql mysql mariadb sqlite tsql plsql]
-- finds: 0 open-join ask
INSERT INTO fine (owner_id, boat_id) SELECT s.owner_id, b.id FROM stay s, boat b WHERE s.fee = 3;
-- case: said openly, picked by a value, or tied by a name that may be anybody's [postgresql mysql mariadb sqlite]
INSERT INTO fine (owner_id, boat_id) SELECT s.owner_id, b.id FROM stay s CROSS JOIN boat b WHERE s.fee = 3;
INSERT INTO fine (owner_id, rate) SELECT s.owner_id, p.rate FROM stay s, setting p WHERE p.name = 'rate' AND s.fee > 3;
INSERT INTO fine (owner_id, boat_id) SELECT s.owner_id, b.id FROM stay s, boat b WHERE boat_id = b.id;
-- case: the number of one thing with that of another [postgresql sqlite tsql]
-- finds: 0 off-key-join ask
UPDATE stay SET fee = 0 FROM boat b WHERE b.owner_id = stay.boat_id AND b.kind = 'sail';
-- case: on the desktop [jet]
-- finds: 0 off-key-join ask
UPDATE Stay INNER JOIN Boat ON Stay.BoatID = Boat.OwnerID SET Stay.Fee = 0 WHERE Boat.Kind = "sail";
-- case: a key by another name, or under a role [mysql mariadb]
UPDATE stay s JOIN boat b ON b.id = s.boat_id SET s.fee = 0 WHERE b.sold = 1;
UPDATE stay s JOIN person p ON p.person_id = s.owner_id SET s.fee = 0 WHERE p.gone = 1;
