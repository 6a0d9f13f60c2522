-- By which a student comes in to see their own work, as the roll has it: a sign-in or a mail address.
ALTER TABLE student ADD COLUMN sign_in TEXT;
