-- Ten thousand renditions are looked through as quickly as ten.
CREATE INDEX rendition_finished ON rendition (finished_at DESC NULLS LAST, id);
CREATE INDEX rendition_state ON rendition (state);
