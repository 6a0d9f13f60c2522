-- Results that the records office took under a wrong number, and was asked to take out again: each is sent anew in another hand-over.
CREATE TABLE result_withdrawn (
  hand_over_id TEXT NOT NULL REFERENCES hand_over (id),
  student_id TEXT NOT NULL REFERENCES student (id),
  by_id TEXT NOT NULL REFERENCES person (id),
  at TEXT NOT NULL,
  PRIMARY KEY (hand_over_id, student_id)
) STRICT;
