-- What is drawn along a programme's length is as long as the programme, and most who ask what was found in it want none of that.
ALTER TABLE analysis ADD COLUMN series jsonb;
UPDATE analysis
SET series = jsonb_build_object('busyness', findings->'busyness', 'sound', findings->'sound'),
    findings = findings - 'busyness' - 'sound'
WHERE findings IS NOT NULL;
