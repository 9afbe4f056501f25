-- second step: every table gets an owner, so that the version before cannot serve this database any more. End all processes first.
--
-- Crews in one installation. Each row is of one crew; row-level security shows the application's role the rows of that crew
-- which its connection says it works for, and lets a row point to rows of its own crew alone. What has to look over all of
-- them (who signs in, which crew an address opens) goes through the functions named door_*, each of which answers one
-- question. The owner of the tables is not bound by it: migrations, backups and what is done on the machine itself.
CREATE FUNCTION crew_now() RETURNS uuid LANGUAGE sql STABLE PARALLEL SAFE AS $$
  SELECT nullif(current_setting('near_spoke.crew', true), '')::uuid
$$;
--> statement-breakpoint
CREATE TABLE "crew" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "crew_name_given" CHECK (name <> '')
);
--> statement-breakpoint
CREATE TABLE "crew_invitation" (
	"id" uuid PRIMARY KEY NOT NULL,
	"of_crew" uuid DEFAULT crew_now() NOT NULL,
	"role" "crew_role" NOT NULL,
	"code_hash" text NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"used_by" uuid,
	CONSTRAINT "crew_invitation_code_hash_unique" UNIQUE("code_hash")
);
--> statement-breakpoint
CREATE TABLE "membership" (
	"of_crew" uuid DEFAULT crew_now() NOT NULL,
	"person_id" uuid NOT NULL,
	"role" "crew_role" NOT NULL,
	"active" boolean DEFAULT true NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"since" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "membership_of_crew_person_id_pk" PRIMARY KEY("of_crew","person_id")
);
--> statement-breakpoint
CREATE TABLE "shared_sheet" (
	"of_crew" uuid DEFAULT crew_now() NOT NULL,
	"kind" "kit_kind" NOT NULL,
	"type_id" text NOT NULL,
	"version" integer NOT NULL,
	"crew_name" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"by" uuid NOT NULL,
	"sheet" jsonb NOT NULL,
	CONSTRAINT "shared_sheet_of_crew_kind_type_id_pk" PRIMARY KEY("of_crew","kind","type_id")
);
--> statement-breakpoint
INSERT INTO crew (id, name) VALUES ('00000000-0000-4000-8000-000000000001', 'Our crew');
--> statement-breakpoint
INSERT INTO membership (of_crew, person_id, role, active, version, since)
  SELECT '00000000-0000-4000-8000-000000000001', id, role, active, version, created_at FROM crew_member;
--> statement-breakpoint
ALTER TABLE "link" DROP CONSTRAINT "link_cable_type_id_cable_type_id_fk";
--> statement-breakpoint
ALTER TABLE "link_end" DROP CONSTRAINT "link_end_connector_type_id_connector_type_id_fk";
--> statement-breakpoint
ALTER TABLE "termination_attempt" DROP CONSTRAINT "termination_attempt_connector_type_id_connector_type_id_fk";
--> statement-breakpoint
ALTER TABLE "reel" DROP CONSTRAINT "reel_cable_type_id_cable_type_id_fk";
--> statement-breakpoint
ALTER TABLE "velocity_figure" DROP CONSTRAINT "velocity_figure_cable_type_id_cable_type_id_fk";
--> statement-breakpoint
ALTER TABLE "loose_end" DROP CONSTRAINT "loose_end_cable_type_id_cable_type_id_fk";
--> statement-breakpoint
ALTER TABLE "loose_end" DROP CONSTRAINT "loose_end_connector_type_id_connector_type_id_fk";
--> statement-breakpoint
ALTER TABLE "kit_sheet" DROP CONSTRAINT "kit_sheet_kind_type_id_version_pk";
--> statement-breakpoint
DROP INDEX "crew_form_name";
--> statement-breakpoint
DROP INDEX "crew_member_name";
--> statement-breakpoint
DROP INDEX "reel_name";
--> statement-breakpoint
ALTER TABLE "setting" DROP CONSTRAINT "setting_pkey";
--> statement-breakpoint
ALTER TABLE "cable_type" DROP CONSTRAINT "cable_type_pkey";
--> statement-breakpoint
ALTER TABLE "connector_type" DROP CONSTRAINT "connector_type_pkey";
--> statement-breakpoint
ALTER TABLE "tool_type" DROP CONSTRAINT "tool_type_pkey";
--> statement-breakpoint
ALTER TABLE "told_repeat" DROP CONSTRAINT "told_repeat_pkey";
--> statement-breakpoint
ALTER TABLE "crew_form" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "crew_form" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "session" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "session" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "setting" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "setting" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "cable_type" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "cable_type" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "connector_type" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "connector_type" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "kit_sheet" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "kit_sheet" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "tool_type" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "tool_type" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "activity" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "activity" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "job" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "job" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "link" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "link" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "place" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "place" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "share_link" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "share_link" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "cable_work" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "cable_work" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "fault_found" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "fault_found" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "handover" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "handover" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "link_end" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "link_end" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "link_note" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "link_note" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "link_search" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "link_search" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "reopening" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "reopening" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "sign_off" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "sign_off" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "taken_reading" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "taken_reading" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "termination_attempt" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "termination_attempt" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "test_record" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "test_record" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "testing_round" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "testing_round" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "told_repeat" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "told_repeat" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "trace_record" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "trace_record" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "reel" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "reel" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "reel_entry" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "reel_entry" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "velocity_figure" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "velocity_figure" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "adapter" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "adapter" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "adapter_build" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "adapter_build" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "adapter_photo" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "adapter_photo" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "adapter_version" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "adapter_version" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "job_adapter" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "job_adapter" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "loose_end" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "loose_end" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "loose_given" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "loose_given" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "loose_photo" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "loose_photo" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "drill_answer" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "drill_answer" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "together" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "together" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "together_helper" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "together_helper" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "together_told" ADD COLUMN "of_crew" uuid DEFAULT '00000000-0000-4000-8000-000000000001' NOT NULL;
--> statement-breakpoint
ALTER TABLE "together_told" ALTER COLUMN "of_crew" SET DEFAULT crew_now();
--> statement-breakpoint
ALTER TABLE "setting" ADD CONSTRAINT "setting_of_crew_name_pk" PRIMARY KEY("of_crew","name");
--> statement-breakpoint
ALTER TABLE "cable_type" ADD CONSTRAINT "cable_type_of_crew_id_pk" PRIMARY KEY("of_crew","id");
--> statement-breakpoint
ALTER TABLE "connector_type" ADD CONSTRAINT "connector_type_of_crew_id_pk" PRIMARY KEY("of_crew","id");
--> statement-breakpoint
ALTER TABLE "kit_sheet" ADD CONSTRAINT "kit_sheet_of_crew_kind_type_id_version_pk" PRIMARY KEY("of_crew","kind","type_id","version");
--> statement-breakpoint
ALTER TABLE "tool_type" ADD CONSTRAINT "tool_type_of_crew_id_pk" PRIMARY KEY("of_crew","id");
--> statement-breakpoint
ALTER TABLE "told_repeat" ADD CONSTRAINT "told_repeat_of_crew_key_pk" PRIMARY KEY("of_crew","key");
--> statement-breakpoint
ALTER TABLE "crew_invitation" ADD CONSTRAINT "crew_invitation_of_crew_crew_id_fk" FOREIGN KEY ("of_crew") REFERENCES "public"."crew"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "crew_invitation" ADD CONSTRAINT "crew_invitation_by_crew_member_id_fk" FOREIGN KEY ("by") REFERENCES "public"."crew_member"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "crew_invitation" ADD CONSTRAINT "crew_invitation_used_by_crew_member_id_fk" FOREIGN KEY ("used_by") REFERENCES "public"."crew_member"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "membership" ADD CONSTRAINT "membership_of_crew_crew_id_fk" FOREIGN KEY ("of_crew") REFERENCES "public"."crew"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "membership" ADD CONSTRAINT "membership_person_id_crew_member_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."crew_member"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "shared_sheet" ADD CONSTRAINT "shared_sheet_by_crew_member_id_fk" FOREIGN KEY ("by") REFERENCES "public"."crew_member"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "session" ADD CONSTRAINT "session_of_crew_crew_id_fk" FOREIGN KEY ("of_crew") REFERENCES "public"."crew"("id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "link" ADD CONSTRAINT "link_cable" FOREIGN KEY ("of_crew","cable_type_id") REFERENCES "public"."cable_type"("of_crew","id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "link_end" ADD CONSTRAINT "link_end_connector" FOREIGN KEY ("of_crew","connector_type_id") REFERENCES "public"."connector_type"("of_crew","id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "termination_attempt" ADD CONSTRAINT "termination_attempt_connector" FOREIGN KEY ("of_crew","connector_type_id") REFERENCES "public"."connector_type"("of_crew","id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "reel" ADD CONSTRAINT "reel_cable" FOREIGN KEY ("of_crew","cable_type_id") REFERENCES "public"."cable_type"("of_crew","id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "velocity_figure" ADD CONSTRAINT "velocity_figure_cable" FOREIGN KEY ("of_crew","cable_type_id") REFERENCES "public"."cable_type"("of_crew","id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "loose_end" ADD CONSTRAINT "loose_end_connector" FOREIGN KEY ("of_crew","connector_type_id") REFERENCES "public"."connector_type"("of_crew","id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
ALTER TABLE "loose_end" ADD CONSTRAINT "loose_end_cable" FOREIGN KEY ("of_crew","cable_type_id") REFERENCES "public"."cable_type"("of_crew","id") ON DELETE no action ON UPDATE no action;
--> statement-breakpoint
CREATE INDEX "membership_of_person" ON "membership" USING btree ("person_id");
--> statement-breakpoint
CREATE UNIQUE INDEX "crew_form_name" ON "crew_form" USING btree ("of_crew","kind",lower("name"));
--> statement-breakpoint
CREATE UNIQUE INDEX "crew_member_name" ON "crew_member" USING btree (lower("name")) WHERE passphrase_hash <> '-';
--> statement-breakpoint
CREATE UNIQUE INDEX "reel_name" ON "reel" USING btree ("of_crew",lower("name"));
--> statement-breakpoint
ALTER TABLE "crew_member" DROP COLUMN "role";
--> statement-breakpoint
ALTER TABLE "crew_member" DROP COLUMN "active";
--> statement-breakpoint
ALTER TABLE "crew_member" DROP COLUMN "version";
--> statement-breakpoint
-- What is looked for of links, the caller's crew alone. It stands before a table that row-level security closes altogether: by a
-- view the indexes of words and people can be used, which a policy would forbid (their operators may tell of rows not shown).
CREATE VIEW link_search_here AS SELECT * FROM link_search WHERE of_crew = (SELECT crew_now());
--> statement-breakpoint
-- It writes where the application may not, of its crew's links.
CREATE OR REPLACE FUNCTION link_search_refresh(ids uuid[]) RETURNS void LANGUAGE sql SECURITY DEFINER SET search_path = public, pg_temp AS $$
INSERT INTO link_search AS kept
  (link_id, of_crew, job_id, words, stage, scheme, made_by, tested_by, handed_over_by, rests_on, faults, first_at, last_at)
SELECT
  l.id, l.of_crew, l.job_id,
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
JOIN cable_type cable ON cable.of_crew = l.of_crew AND cable.id = l.cable_type_id
JOIN link_end near_end ON near_end.link_id = l.id AND near_end.side = 'near'
JOIN place port ON port.id = near_end.place_id
JOIN place panel ON panel.id = port.parent_id
JOIN link_end far_end ON far_end.link_id = l.id AND far_end.side = 'far'
JOIN place outlet ON outlet.id = far_end.place_id
JOIN place room ON room.id = outlet.parent_id
JOIN connector_type near_type ON near_type.of_crew = l.of_crew AND near_type.id = near_end.connector_type_id
JOIN connector_type far_type ON far_type.of_crew = l.of_crew AND far_type.id = far_end.connector_type_id
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
WHERE l.id = ANY (ids) AND l.of_crew = crew_now()
ON CONFLICT (link_id) DO UPDATE SET
  words = excluded.words, stage = excluded.stage, scheme = excluded.scheme, made_by = excluded.made_by,
  tested_by = excluded.tested_by, handed_over_by = excluded.handed_over_by, rests_on = excluded.rests_on,
  faults = excluded.faults, first_at = excluded.first_at, last_at = excluded.last_at;
$$;
--> statement-breakpoint
-- Keeps a table to the crew that its rows are of: who works for one sees and changes its rows alone, and what a row points to has
-- to be of that crew too. A migration that makes a table of a crew calls it once its foreign keys are there.
CREATE FUNCTION keep_to_crew(kept regclass) RETURNS void LANGUAGE plpgsql AS $$
DECLARE
  name text := (SELECT relname FROM pg_class WHERE oid = kept);
  own text := 'of_crew = (SELECT crew_now())';
  all_own text := own;
  one record;
BEGIN
  FOR one IN
    SELECT f.confrelid::regclass AS parent,
           string_agg(format('%I.%I IS NULL', name, child.attname), ' OR ') AS nothing,
           string_agg(format('there.%I = %I.%I', there.attname, name, child.attname), ' AND ') AS same
    FROM pg_constraint f
    CROSS JOIN LATERAL unnest(f.conkey, f.confkey) AS pair (child, there)
    JOIN pg_attribute child ON child.attrelid = f.conrelid AND child.attnum = pair.child
    JOIN pg_attribute there ON there.attrelid = f.confrelid AND there.attnum = pair.there
    WHERE f.conrelid = kept AND f.contype = 'f' AND f.confrelid <> 'crew'::regclass
      -- Rows of one statement may point to each other, and do not see each other yet; both are of a link or a job anyway.
      AND f.confrelid <> f.conrelid
    GROUP BY f.oid, f.confrelid
    -- A key that holds the crew keeps to it by itself.
    HAVING NOT bool_or(child.attname = 'of_crew')
    ORDER BY f.oid
  LOOP
    all_own := all_own || format(' AND (%s OR EXISTS (SELECT FROM %s AS there WHERE %s))', one.nothing, one.parent, one.same);
  END LOOP;
  EXECUTE format('ALTER TABLE %s ENABLE ROW LEVEL SECURITY', kept);
  EXECUTE format('CREATE POLICY crew_sees ON %s FOR SELECT USING (%s)', kept, own);
  EXECUTE format('CREATE POLICY crew_adds ON %s FOR INSERT WITH CHECK (%s)', kept, all_own);
  EXECUTE format('CREATE POLICY crew_rewrites ON %s FOR UPDATE USING (%s) WITH CHECK (%s)', kept, own, all_own);
  EXECUTE format('CREATE POLICY crew_removes ON %s FOR DELETE USING (%s)', kept, own);
END;
$$;
--> statement-breakpoint
DO $$
DECLARE one regclass;
BEGIN
  FOR one IN
    SELECT c.oid FROM pg_class c JOIN pg_attribute a ON a.attrelid = c.oid AND a.attname = 'of_crew'
    WHERE c.relnamespace = 'public'::regnamespace AND c.relkind = 'r' AND c.relname NOT IN ('membership', 'shared_sheet', 'link_search')
  LOOP
    PERFORM keep_to_crew(one);
  END LOOP;
END;
$$;
--> statement-breakpoint
ALTER TABLE link_search ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
ALTER TABLE crew ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY crew_sees ON crew FOR SELECT USING (id = (SELECT crew_now()));
--> statement-breakpoint
CREATE POLICY crew_rewrites ON crew FOR UPDATE USING (id = (SELECT crew_now()));
--> statement-breakpoint
-- Whether somebody works in a crew other than the caller's.
CREATE FUNCTION works_elsewhere(person uuid) RETURNS boolean LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT EXISTS (SELECT FROM membership WHERE person_id = person AND active AND of_crew IS DISTINCT FROM crew_now())
$$;
--> statement-breakpoint
ALTER TABLE membership ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY crew_sees ON membership FOR SELECT USING (of_crew = (SELECT crew_now()));
--> statement-breakpoint
-- Who works elsewhere comes in by a code of their own accord (door_join).
CREATE POLICY crew_adds ON membership FOR INSERT WITH CHECK (of_crew = (SELECT crew_now()) AND NOT works_elsewhere(person_id));
--> statement-breakpoint
CREATE POLICY crew_rewrites ON membership FOR UPDATE USING (of_crew = (SELECT crew_now()));
--> statement-breakpoint
ALTER TABLE crew_member ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY crew_sees ON crew_member FOR SELECT
  USING (EXISTS (SELECT FROM membership WHERE membership.person_id = crew_member.id));
--> statement-breakpoint
CREATE POLICY crew_adds ON crew_member FOR INSERT WITH CHECK (true);
--> statement-breakpoint
-- A crew gives nobody a new passphrase who works in another one too.
CREATE POLICY crew_rewrites ON crew_member FOR UPDATE
  USING (EXISTS (SELECT FROM membership WHERE membership.person_id = crew_member.id) AND NOT works_elsewhere(id));
--> statement-breakpoint
ALTER TABLE shared_sheet ENABLE ROW LEVEL SECURITY;
--> statement-breakpoint
CREATE POLICY all_see ON shared_sheet FOR SELECT USING ((SELECT crew_now()) IS NOT NULL);
--> statement-breakpoint
CREATE POLICY crew_adds ON shared_sheet FOR INSERT
  WITH CHECK (of_crew = (SELECT crew_now()) AND EXISTS (SELECT FROM crew_member AS there WHERE there.id = shared_sheet.by));
--> statement-breakpoint
CREATE POLICY crew_rewrites ON shared_sheet FOR UPDATE USING (of_crew = (SELECT crew_now()));
--> statement-breakpoint
CREATE POLICY crew_removes ON shared_sheet FOR DELETE USING (of_crew = (SELECT crew_now()));
--> statement-breakpoint
-- Whose a session is, while it is good and its person works in that crew.
CREATE FUNCTION door_session(token text) RETURNS TABLE (id uuid, name text, role crew_role, forgery_token text, of_crew uuid) LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT p.id, p.name, m.role, s.forgery_token, s.of_crew
  FROM session s JOIN crew_member p ON p.id = s.crew_id
  JOIN membership m ON m.person_id = p.id AND m.of_crew = s.of_crew AND m.active
  WHERE s.token_hash = token AND s.expires_at > now()
$$;
--> statement-breakpoint
-- Who signs in by a name.
CREATE FUNCTION door_person(called text) RETURNS TABLE (id uuid, name text, passphrase_hash text) LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT id, name, passphrase_hash FROM crew_member WHERE lower(name) = lower(called) AND passphrase_hash <> '-'
$$;
--> statement-breakpoint
-- The crews that somebody works in, the one worked in last first.
CREATE FUNCTION door_crews_of(person uuid) RETURNS TABLE (id uuid, name text, role crew_role, version integer) LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT c.id, c.name, m.role, c.version FROM membership m JOIN crew c ON c.id = m.of_crew
  WHERE m.person_id = person AND m.active
  ORDER BY (SELECT max(s.created_at) FROM session s WHERE s.crew_id = person AND s.of_crew = c.id) DESC NULLS LAST, m.since, c.id
$$;
--> statement-breakpoint
-- The sessions of whoever has one, in whichever crew.
CREATE FUNCTION door_sessions_of(token text) RETURNS TABLE (token_hash text, created_at timestamptz, expires_at timestamptz) LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT s.token_hash, s.created_at, s.expires_at FROM session s JOIN session own ON own.crew_id = s.crew_id
  WHERE own.token_hash = token AND own.expires_at > now() AND s.expires_at > now() ORDER BY s.created_at DESC
$$;
--> statement-breakpoint
-- Ends other sessions of whoever has one: that which is spoken of so, or all.
CREATE FUNCTION door_end_others(token text, shown text) RETURNS SETOF text LANGUAGE sql SECURITY DEFINER SET search_path = public, pg_temp AS $$
  DELETE FROM session s USING session own
  WHERE own.token_hash = token AND s.crew_id = own.crew_id AND s.token_hash <> token
    AND (shown IS NULL OR left(s.token_hash, 16) = shown)
  RETURNING s.token_hash
$$;
--> statement-breakpoint
-- Gives whoever has a session another passphrase.
CREATE FUNCTION door_new_passphrase(token text, hash text) RETURNS SETOF uuid LANGUAGE sql SECURITY DEFINER SET search_path = public, pg_temp AS $$
  UPDATE crew_member p SET passphrase_hash = hash FROM session own
  WHERE own.token_hash = token AND own.expires_at > now() AND p.id = own.crew_id RETURNING p.id
$$;
--> statement-breakpoint
-- Takes a session into another crew of its person.
CREATE FUNCTION door_move(token text, into_crew uuid, forgery text) RETURNS SETOF uuid LANGUAGE sql SECURITY DEFINER SET search_path = public, pg_temp AS $$
  UPDATE session s SET of_crew = into_crew, forgery_token = forgery FROM membership m
  WHERE s.token_hash = token AND s.expires_at > now() AND m.person_id = s.crew_id AND m.of_crew = into_crew AND m.active
  RETURNING s.of_crew
$$;
--> statement-breakpoint
-- Brings whoever has a session into the crew that a code is of, once.
CREATE FUNCTION door_join(token text, code text) RETURNS SETOF uuid LANGUAGE sql SECURITY DEFINER SET search_path = public, pg_temp AS $$
  WITH used AS (
    UPDATE crew_invitation i SET used_by = own.crew_id FROM session own
    WHERE own.token_hash = token AND own.expires_at > now() AND i.code_hash = code AND i.used_by IS NULL AND i.expires_at > now()
    RETURNING i.of_crew, i.role, own.crew_id AS person)
  INSERT INTO membership AS m (of_crew, person_id, role) SELECT of_crew, person, role FROM used
  -- Who left comes back; who is in it stays what they are.
  ON CONFLICT (of_crew, person_id) DO UPDATE
    SET active = true, role = CASE WHEN m.active THEN m.role ELSE excluded.role END, version = m.version + 1
  RETURNING of_crew
$$;
--> statement-breakpoint
-- Founds a crew, led by whoever has a session as a lead.
CREATE FUNCTION door_found(token text, new_crew uuid, called text) RETURNS SETOF uuid LANGUAGE sql SECURITY DEFINER SET search_path = public, pg_temp AS $$
  WITH who AS (
    SELECT s.crew_id AS person FROM session s
    JOIN membership m ON m.person_id = s.crew_id AND m.of_crew = s.of_crew AND m.active AND m.role = 'lead'
    WHERE s.token_hash = token AND s.expires_at > now()),
  made AS (INSERT INTO crew (id, name) SELECT new_crew, called FROM who ON CONFLICT (id) DO NOTHING RETURNING id)
  INSERT INTO membership (of_crew, person_id, role) SELECT made.id, who.person, 'lead' FROM made, who RETURNING of_crew
$$;
--> statement-breakpoint
-- The crew whose report an address opens.
CREATE FUNCTION door_share(token text) RETURNS SETOF uuid LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT of_crew FROM share_link WHERE token_hash = token AND expires_at > now() AND revoked_at IS NULL
$$;
--> statement-breakpoint
-- The crew that somebody without an account helps.
CREATE FUNCTION door_helper(token text) RETURNS SETOF uuid LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT of_crew FROM together_helper WHERE token_hash = token
$$;
--> statement-breakpoint
-- The crew whose work by two has a code.
CREATE FUNCTION door_code(given text) RETURNS SETOF uuid LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT of_crew FROM together WHERE code = given AND ended_at IS NULL
$$;
--> statement-breakpoint
-- Whether there is anybody at all.
CREATE FUNCTION door_anybody() RETURNS boolean LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT EXISTS (SELECT FROM crew_member)
$$;
--> statement-breakpoint
-- All crews there are.
CREATE FUNCTION door_crews() RETURNS SETOF uuid LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT id FROM crew ORDER BY created_at, id
$$;
--> statement-breakpoint
-- Crews that have links to be judged again.
CREATE FUNCTION door_to_judge() RETURNS SETOF uuid LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public, pg_temp AS $$
  SELECT DISTINCT of_crew FROM link WHERE NOT judged AND out_at IS NULL
$$;
