-- hazards: lookalike-column
-- tables
CREATE TABLE owner (owner_id integer NOT NULL PRIMARY KEY, name varchar(60) NOT NULL, mail varchar(40) UNIQUE, phone varchar(20), mobile varchar(20), left_on date);
CREATE TABLE berth (berth_id integer NOT NULL PRIMARY KEY, code varchar(10) NOT NULL UNIQUE, quay varchar(10) NOT NULL, depth_m numeric(6,2), status varchar(10) NOT NULL, note varchar(200));
CREATE TABLE mooring (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner (owner_id), berth_id integer NOT NULL REFERENCES berth (berth_id), from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
CREATE TABLE mooring_old (mooring_id integer NOT NULL PRIMARY KEY, owner_id integer NOT NULL, berth_id integer NOT NULL, from_day date NOT NULL, to_day date, fee numeric(8,2) NOT NULL, status varchar(10) NOT NULL);
-- case: from another column although there is one of that name [postgresql sqlite]
-- finds: 0 lookalike-column ask
UPDATE mooring SET to_day = o.from_day FROM mooring_old o WHERE o.mooring_id = mooring.mooring_id;
-- case: in a join [mysql mariadb]
-- finds: 0 lookalike-column ask
UPDATE mooring m JOIN mooring_old o ON o.mooring_id = m.mooring_id SET m.owner_id = o.berth_id;
-- case: the same name [mysql mariadb]
UPDATE mooring m JOIN mooring_old o ON o.mooring_id = m.mooring_id SET m.owner_id = o.owner_id;
