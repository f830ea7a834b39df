UPDATE vessel SET call_sign = "HX2000" WHERE vessel_id = [Which vessel];

DELETE pilotage.* FROM pilotage INNER JOIN mooring ON pilotage.mooring_id = mooring.mooring_id
WHERE mooring.status = "cancelled";
