--| about: Kilograms picked in the season, by orchard
--| up
CREATE VIEW harvest_summary AS
SELECT o.name AS orchard, sum(p.kilograms) AS kilograms
FROM orchard o
JOIN block b ON b.orchard_id = o.id
JOIN picking p ON p.block_id = b.id
WHERE p.picked_on LIKE @{season:text} || '-%'
GROUP BY o.name;
--| down
DROP VIEW harvest_summary;
