-- +goose Up
-- What says who asks, where a registry wants to know.
ALTER TABLE registries ADD COLUMN token text NOT NULL DEFAULT '';
