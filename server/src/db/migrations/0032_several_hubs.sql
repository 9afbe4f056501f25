ALTER TABLE "link" ADD COLUMN "hub" text;--> statement-breakpoint
-- A link is looked for by the hub where it begins.
CREATE OR REPLACE FUNCTION link_search_refresh(ids uuid[]) RETURNS void LANGUAGE sql AS $$
INSERT INTO link_search AS kept
  (link_id, job_id, words, stage, scheme, made_by, tested_by, handed_over_by, rests_on, faults, first_at, last_at)
SELECT
  l.id, l.job_id,
  lower(concat_ws(' ', l.label, j.site, j.title, coalesce(l.hub, j.hub), panel.name, 'port ' || port.name, room.name, outlet.name,
    cable.sheet ->> 'name', near_type.sheet ->> 'name', far_type.sheet ->> 'name', l.standing,
    made.said, read.said, worked.said, reopened.said, noted.said)),
  l.stage, j.scheme,
  coalesce(made.people, '{}'), coalesce(read.people, '{}'), coalesce(given.people, '{}'),
  coalesce((SELECT array_agg(DISTINCT used.kind)
    FROM jsonb_array_elements_text(l.verdict -> 'diagnosis' -> 'restsOn') AS used (kind)), '{}'),
  coalesce(read.faults, '{}'),
  least(made.first_at, read.first_at, worked.first_at, given.first_at),
  greatest(made.last_at, read.last_at, worked.last_at, given.last_at)
FROM link l
JOIN job j ON j.id = l.job_id
JOIN cable_type cable ON cable.id = l.cable_type_id
JOIN link_end near_end ON near_end.link_id = l.id AND near_end.side = 'near'
JOIN place port ON port.id = near_end.place_id
JOIN place panel ON panel.id = port.parent_id
JOIN link_end far_end ON far_end.link_id = l.id AND far_end.side = 'far'
JOIN place outlet ON outlet.id = far_end.place_id
JOIN place room ON room.id = outlet.parent_id
JOIN connector_type near_type ON near_type.id = near_end.connector_type_id
JOIN connector_type far_type ON far_type.id = far_end.connector_type_id
LEFT JOIN LATERAL (
  SELECT array_agg(DISTINCT a.by) AS people, min(a.at) AS first_at, max(a.at) AS last_at,
    string_agg(concat_ws(' ', nullif(a.reason, ''), nullif(a.lot, ''), nullif(a.stopgap, '')), ' ') AS said
  FROM termination_attempt a WHERE a.link_id = l.id) made ON true
LEFT JOIN LATERAL (
  SELECT array_agg(DISTINCT t.by) AS people, min(t.at) AS first_at, max(t.at) AS last_at,
    string_agg(concat_ws(' ', nullif(t.note, ''), nullif(t.misread, '')), ' ') AS said,
    (SELECT array_agg(DISTINCT finding ->> 'kind')
      FROM test_record f, jsonb_array_elements(f.diagnosis -> 'findings') AS finding WHERE f.link_id = l.id) AS faults
  FROM test_record t WHERE t.link_id = l.id) read ON true
LEFT JOIN LATERAL (
  SELECT min(w.at) AS first_at, max(w.at) AS last_at, string_agg(nullif(w.note, ''), ' ') AS said
  FROM cable_work w WHERE w.link_id = l.id) worked ON true
LEFT JOIN LATERAL (
  SELECT array_agg(DISTINCT h.by) AS people, min(h.at) AS first_at, max(h.at) AS last_at
  FROM handover h WHERE h.link_id = l.id) given ON true
LEFT JOIN LATERAL (
  SELECT string_agg(nullif(n.words, ''), ' ') AS said FROM link_note n WHERE n.link_id = l.id) noted ON true
LEFT JOIN LATERAL (
  SELECT string_agg(r.reason, ' ') AS said FROM reopening r WHERE r.link_id = l.id) reopened ON true
WHERE l.id = ANY (ids)
ON CONFLICT (link_id) DO UPDATE SET
  words = excluded.words, stage = excluded.stage, scheme = excluded.scheme, made_by = excluded.made_by,
  tested_by = excluded.tested_by, handed_over_by = excluded.handed_over_by, rests_on = excluded.rests_on,
  faults = excluded.faults, first_at = excluded.first_at, last_at = excluded.last_at;
$$;
