-- What a client's page shows part by part, the newest first.
CREATE INDEX sends_of_client_by_time ON sends (client_id, coalesce(shown_at, 9007199254740991), id);
