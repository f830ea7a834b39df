-- hazards: every-row weak-filter open-join off-key-join loose-insert wrong-target lookalike-column drifts-on-rerun hard-delete
-- tables
CREATE TABLE "Customers" ("Id" integer NOT NULL PRIMARY KEY, "Name" varchar(60) NOT NULL, "Phone" varchar(20), "LoginCount" integer NOT NULL, "ClosedAt" date);
CREATE TABLE "Orders" ("Id" integer NOT NULL PRIMARY KEY, "CustomerId" integer NOT NULL REFERENCES "Customers" ("Id"), "Name" varchar(60), "Total" integer NOT NULL);
-- case: what is printed is quoted where it has to be [postgresql]
-- finds: 0 every-row stop
-- finds: 1 weak-filter ask
-- finds: 2 open-join stop
-- finds: 3 wrong-target stop
-- finds: 4 loose-insert note
-- finds: 5 drifts-on-rerun note
-- finds: 6 hard-delete ask
-- finds: 6 weak-filter ask
TRUNCATE TABLE "Orders";
UPDATE "Customers" SET "Phone" = '1' WHERE "Name" = 'Ada Storm';
INSERT INTO "Orders" ("Id", "CustomerId", "Total") SELECT c."Id", c."Id", 0 FROM "Customers" c, "Orders" o;
UPDATE "Orders" SET "Total" = 0 FROM "Orders" o WHERE o."Id" = 3;
INSERT INTO "Orders" SELECT "Id" + 100, "CustomerId", "Name", "Total" FROM "Orders" WHERE "Total" > 3;
UPDATE "Customers" SET "LoginCount" = "LoginCount" + 1 WHERE "Id" = 4;
DELETE FROM "Customers" WHERE "Phone" = '7';
