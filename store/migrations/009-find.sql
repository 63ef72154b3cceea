-- Everything that can be looked for by a few letters, indexed by its trigrams: machines, sheets and jobs, kept up by the tables themselves.
-- A job's row goes by its number turned negative, so that it is found again without looking through all; sheets change seldom.
CREATE VIRTUAL TABLE finds USING fts5 (kind UNINDEXED, ref UNINDEXED, title, more, tokenize = 'trigram');

INSERT INTO finds (kind, ref, title, more) SELECT 'machine', tag, tag || ' ' || nickname, used_for FROM units;
INSERT INTO finds (kind, ref, title, more) SELECT 'sheet', id, json_extract(body, '$.maker') || ' ' || json_extract(body, '$.model'), coalesce(json_extract(body, '$.years'), '') || ' ' || coalesce(json_extract(body, '$.kind'), '') FROM sheets;
INSERT INTO finds (rowid, kind, ref, title, more) SELECT -id, 'job', id, coalesce(unit_tag || ' ', '') || nickname, words || ' ' || coalesce(closing_note, '') FROM jobs;

CREATE TRIGGER find_machine AFTER INSERT ON units BEGIN
  INSERT INTO finds (kind, ref, title, more) VALUES ('machine', NEW.tag, NEW.tag || ' ' || NEW.nickname, NEW.used_for);
END;
CREATE TRIGGER find_sheet AFTER INSERT ON sheets BEGIN
  INSERT INTO finds (kind, ref, title, more) VALUES ('sheet', NEW.id, json_extract(NEW.body, '$.maker') || ' ' || json_extract(NEW.body, '$.model'), coalesce(json_extract(NEW.body, '$.years'), '') || ' ' || coalesce(json_extract(NEW.body, '$.kind'), ''));
END;
CREATE TRIGGER find_sheet_anew AFTER UPDATE ON sheets BEGIN
  UPDATE finds SET title = json_extract(NEW.body, '$.maker') || ' ' || json_extract(NEW.body, '$.model'), more = coalesce(json_extract(NEW.body, '$.years'), '') || ' ' || coalesce(json_extract(NEW.body, '$.kind'), '') WHERE kind = 'sheet' AND ref = NEW.id;
END;
CREATE TRIGGER find_job AFTER INSERT ON jobs BEGIN
  INSERT INTO finds (rowid, kind, ref, title, more) VALUES (-NEW.id, 'job', NEW.id, coalesce(NEW.unit_tag || ' ', '') || NEW.nickname, NEW.words || ' ' || coalesce(NEW.closing_note, ''));
END;
CREATE TRIGGER find_job_anew AFTER UPDATE OF unit_tag, closing_note ON jobs BEGIN
  UPDATE finds SET title = coalesce(NEW.unit_tag || ' ', '') || NEW.nickname, more = NEW.words || ' ' || coalesce(NEW.closing_note, '') WHERE rowid = -NEW.id;
END;
