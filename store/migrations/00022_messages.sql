-- +goose Up
-- Letters to clients that the office has sent: weather ahead, a visit tomorrow.
CREATE TABLE messages (
  id uuid PRIMARY KEY,
  firm_id uuid NOT NULL REFERENCES firms,
  batch uuid NOT NULL,
  client_id uuid NOT NULL,
  kind text NOT NULL CHECK (kind IN ('hot', 'wet', 'frost', 'dry', 'visit')),
  visit_id uuid,
  email text NOT NULL,
  subject text NOT NULL,
  body text NOT NULL,
  state text NOT NULL DEFAULT 'queued' CHECK (state IN ('queued', 'sent', 'failed')),
  made_on date NOT NULL,
  sent_at timestamptz,
  person_id uuid NOT NULL,
  UNIQUE (firm_id, id),
  UNIQUE (firm_id, batch, client_id),
  FOREIGN KEY (firm_id, client_id) REFERENCES clients (firm_id, id),
  FOREIGN KEY (firm_id, visit_id) REFERENCES visits (firm_id, id),
  FOREIGN KEY (firm_id, person_id) REFERENCES people (firm_id, id)
);
CREATE INDEX messages_client ON messages (firm_id, client_id, made_on);
CALL lock_firm('messages');

-- +goose Down
DROP TABLE messages;
