-- 0017: sentences of the course that shipped and that contradicted the card or a house's rules. Houses that have them get a version with the right
-- ones; nobody has to read it again. {pause} and {watch} are filled in from the house's rules when the page is read.
with mended as (
    select module_id, version + 1 as version, check_text, options,
        replace(replace(replace(replace(body,
            '1. Press stop or pause.', '1. **Stop the job**, as the card at the machine says: on some machines a pause leaves the beam live. Air assist off.'),
            'and keeps watch for half an hour', 'and a named person keeps watch for {watch} minutes'),
            'If you must go: pause or stop, wait, then go.', '{pause}'),
            'The gate works it out; after a flame', 'The page of the machine says how long for this one; after a flame') as body, body as was
    from (select p.* from training.page p join training.module m on m.id = p.module_id and m.version = p.version) now
), kept as (
    insert into training.page (module_id, version, body, check_text, options) select module_id, version, body, check_text, options from mended where body <> was returning module_id, version
)
update training.module m set version = k.version from kept k where k.module_id = m.id;

-- A question is never edited in place: the old one is retired, and the right one stands beside it.
with mended as (
    select id, topic, position, body::text as was,
        replace(replace(replace(replace(body::text,
            'Stop or pause', 'Stop the job, air assist off'),
            'stay; or you stop, wait, and then go', 'stay; or you stop the job, wait until the lid may open, and then go'),
            'As long as the gate says for this machine and its airflow', 'As long as the machine’s page says for its airflow'),
            '"id": "' || id || '"', '"id": "' || id || '-2"') as body
    from training.question where not retired and id in ('fire-order', 'conduct-phone', 'fumes-wait')
), kept as (
    insert into training.question (id, topic, body, position) select id || '-2', topic, body::jsonb, position from mended where body <> was returning id
)
update training.question q set retired = true from kept k where k.id = q.id || '-2';
