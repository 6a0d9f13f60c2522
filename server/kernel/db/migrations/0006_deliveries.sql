-- Looking at a course as one of its markers sees it: read only, and recorded.
CREATE TABLE look (
  id TEXT PRIMARY KEY,
  course_id TEXT NOT NULL REFERENCES course (id),
  by_id TEXT NOT NULL REFERENCES person (id),
  as_id TEXT NOT NULL REFERENCES person (id),
  at TEXT NOT NULL,
  ended_at TEXT
) STRICT;
CREATE TRIGGER look_stays BEFORE DELETE ON look
BEGIN SELECT RAISE(ABORT, 'who looked as whom is never deleted'); END;
ALTER TABLE session ADD COLUMN look_id TEXT REFERENCES look (id);

-- Work that came through the submission box: placed as an attempt, waiting to be sorted by hand, or set aside.
CREATE TABLE delivery (
  id TEXT PRIMARY KEY,
  course_id TEXT NOT NULL REFERENCES course (id),
  file_name TEXT NOT NULL,
  -- What the box says it is.
  candidate TEXT NOT NULL,
  assessment TEXT NOT NULL,
  came_at TEXT NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('text', 'pdf', 'other')),
  content BLOB NOT NULL,
  hash TEXT NOT NULL,
  state TEXT NOT NULL CHECK (state IN ('placed', 'waiting', 'set aside')),
  -- Why it waits or was set aside.
  why TEXT,
  script_id TEXT REFERENCES script (id),
  attempt INTEGER CHECK (attempt >= 1),
  sorted_by TEXT REFERENCES person (id),
  UNIQUE (course_id, file_name, came_at),
  UNIQUE (script_id, attempt),
  CHECK ((state = 'placed') = (script_id IS NOT NULL AND attempt IS NOT NULL)),
  CHECK (state = 'placed' OR why IS NOT NULL),
  CHECK (state <> 'placed' OR kind <> 'other')
) STRICT;
CREATE TRIGGER delivery_stays BEFORE DELETE ON delivery
BEGIN SELECT RAISE(ABORT, 'what came in is never deleted'); END;

-- Which attempt a reading is of. The reading of an earlier one stands until that of the next is handed in.
ALTER TABLE reading ADD COLUMN attempt INTEGER NOT NULL DEFAULT 1;
ALTER TABLE reading_state ADD COLUMN attempt INTEGER NOT NULL DEFAULT 1;
CREATE TABLE next_reading (
  reading_id TEXT PRIMARY KEY REFERENCES reading (id),
  version INTEGER NOT NULL,
  mark REAL,
  picks TEXT NOT NULL CHECK (json_valid(picks)),
  judgement TEXT,
  comment TEXT NOT NULL,
  criterion_comments TEXT NOT NULL CHECK (json_valid(criterion_comments)),
  notes TEXT NOT NULL,
  edited_at TEXT NOT NULL
) STRICT;

-- Messages of the stand-in for the post.
CREATE TABLE letter (
  id TEXT PRIMARY KEY,
  course_id TEXT NOT NULL REFERENCES course (id),
  by_id TEXT NOT NULL REFERENCES person (id),
  to_id TEXT NOT NULL REFERENCES person (id),
  subject TEXT NOT NULL,
  body TEXT NOT NULL,
  at TEXT NOT NULL
) STRICT;
CREATE INDEX letter_by_course ON letter (course_id, at);

-- Stand-ins that are made to fail on purpose, to see what happens then.
CREATE TABLE stand_in_fault (name TEXT PRIMARY KEY CHECK (name IN ('submission box', 'post'))) STRICT;
