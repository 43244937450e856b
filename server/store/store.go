// Package store keeps workspaces, their history and their people in PostgreSQL.
// The database is the truth: a change counts once its transaction is committed,
// and every process brings its own copy up to date by sequence number.
package store

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"database/sql"
	"embed"
	"encoding/base64"
	"errors"
	"fmt"
	"sync"
	"time"

	"github.com/pressly/goose/v3"
	"gorm.io/driver/postgres"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
	"gorm.io/gorm/logger"

	"ubiquant/core/kit/pack"
	"ubiquant/core/model"
	"ubiquant/core/screen"
)

//go:embed migrations/*.sql
var migrations embed.FS

// ErrNotFound says that a thing is not in the database.
var ErrNotFound = errors.New("not found")

// Store is a connection to the database.
type Store struct {
	db     *gorm.DB
	url    string
	origin string // names this process in notifications
	kits   struct {
		sync.Mutex
		list    []*pack.Bundle // the one asked for last stands last
		offered []*pack.Bundle // looked at, and not stored
	}
}

// Open connects and migrates.
func Open(ctx context.Context, url string) (*Store, error) {
	db, err := gorm.Open(
		postgres.New(postgres.Config{DSN: url}),
		&gorm.Config{Logger: logger.Discard, PrepareStmt: true, SkipDefaultTransaction: true},
	)
	if err != nil {
		return nil, fmt.Errorf("database: %w", err)
	}
	raw, err := db.DB()
	if err != nil {
		return nil, err
	}
	raw.SetMaxOpenConns(16)
	goose.SetBaseFS(migrations)
	goose.SetLogger(goose.NopLogger())
	if err := goose.SetDialect("postgres"); err != nil {
		return nil, err
	}
	// Two processes that start at once must not migrate at once. The lock belongs
	// to a connection, so one connection holds it for the whole migration.
	conn, err := raw.Conn(ctx)
	if err != nil {
		return nil, fmt.Errorf("database: %w", err)
	}
	defer conn.Close()
	if _, err := conn.ExecContext(ctx, "SELECT pg_advisory_lock(470214)"); err != nil {
		return nil, err
	}
	err = notNewer(ctx, raw)
	if err == nil {
		err = goose.UpContext(ctx, raw, "migrations")
	}
	_, unlock := conn.ExecContext(ctx, "SELECT pg_advisory_unlock(470214)")
	if err := errors.Join(err, unlock); err != nil {
		raw.Close()
		return nil, fmt.Errorf("migrating: %w", err)
	}
	origin, _, err := token()
	if err != nil {
		return nil, err
	}
	return &Store{db: db, url: url, origin: origin}, nil
}

// ErrNewer says that a newer version of this program wrote the database.
var ErrNewer = errors.New("the database was written by a newer Ubiquant; use that, or another --data")

// notNewer refuses a database that knows migrations which this program does not.
func notNewer(ctx context.Context, db *sql.DB) error {
	known, err := goose.CollectMigrations("migrations", 0, goose.MaxVersion)
	if err != nil {
		return err
	}
	last, err := known.Last()
	if err != nil {
		return err
	}
	at, err := goose.EnsureDBVersionContext(ctx, db)
	if err == nil && at > last.Version {
		err = fmt.Errorf("%w (its form is %d, this one knows %d)", ErrNewer, at, last.Version)
	}
	return err
}

// Ping asks whether the database answers.
func (s *Store) Ping(ctx context.Context) error {
	raw, err := s.db.DB()
	if err != nil {
		return err
	}
	return raw.PingContext(ctx)
}

// Close ends the connections.
func (s *Store) Close() error {
	raw, err := s.db.DB()
	if err != nil {
		return err
	}
	return raw.Close()
}

type workspaceRow struct {
	ID         int64
	Name       string
	Kit        string
	KitVersion string
	Seq        int64
}

func (workspaceRow) TableName() string { return "workspaces" }

type documentRow struct {
	WorkspaceID int64  `gorm:"primaryKey"`
	Key         string `gorm:"primaryKey"`
	Seq         int64
	Body        []byte
}

func (documentRow) TableName() string { return "documents" }

// ChangeRow is one entry of the history.
type ChangeRow struct {
	WorkspaceID int64     `gorm:"primaryKey" json:"-"`
	Seq         int64     `gorm:"primaryKey" json:"seq"`
	Author      string    `json:"author"`
	At          time.Time `json:"at"`
	Title       string    `json:"title"`
	Docs        string    `json:"docs"`
	Body        []byte    `json:"-"`
	Inverse     []byte    `json:"-"`
	Undoes      int64     `json:"undoes"`
	Undone      bool      `json:"undone"`
}

func (ChangeRow) TableName() string { return "changes" }

// Empty reports whether no workspace is stored.
func (s *Store) Empty(ctx context.Context) (bool, error) {
	var n int64
	err := s.db.WithContext(ctx).Model(&workspaceRow{}).Count(&n).Error
	return n == 0, err
}

type partRow struct {
	WorkspaceID int64  `gorm:"primaryKey"`
	Part        string `gorm:"primaryKey"`
	Seq         int64
	Body        []byte
}

func (partRow) TableName() string { return "parts" }

// Import stores a workspace as a new one and returns its id.
func (s *Store) Import(ctx context.Context, w *model.Workspace) (int64, error) {
	row := workspaceRow{Name: w.Name, Kit: w.Kit.Name, KitVersion: w.Kit.Version}
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := tx.Create(&row).Error; err != nil {
			return err
		}
		if err := putParts(tx, row.ID, 0, w, model.Parts()); err != nil {
			return err
		}
		return putDocs(tx, row.ID, 0, w.Docs)
	})
	return row.ID, err
}

// put writes rows in place of those with their keys.
func put[T any](tx *gorm.DB, rows []T, keys ...string) error {
	if len(rows) == 0 {
		return nil
	}
	columns := make([]clause.Column, len(keys))
	for i, k := range keys {
		columns[i].Name = k
	}
	return tx.Clauses(clause.OnConflict{
		Columns: columns, DoUpdates: clause.AssignmentColumns([]string{"seq", "body"}),
	}).CreateInBatches(rows, 500).Error
}

func putDocs(tx *gorm.DB, id, seq int64, docs []*screen.Document) error {
	rows := make([]documentRow, 0, len(docs))
	for _, d := range docs {
		var out screen.Writer
		model.WriteDocument(&out, d)
		rows = append(rows, documentRow{id, d.Address(), seq, out.B})
	}
	return put(tx, rows, "workspace_id", "key")
}

func putParts(tx *gorm.DB, id, seq int64, w *model.Workspace, parts []model.Part) error {
	rows := make([]partRow, 0, len(parts))
	for _, p := range parts {
		rows = append(rows, partRow{id, string(p), seq, w.Stored(p)})
	}
	return put(tx, rows, "workspace_id", "part")
}

// Secret returns a random key that all processes on the database share.
func (s *Store) Secret(ctx context.Context) ([]byte, error) {
	key := make([]byte, 32)
	if _, err := rand.Read(key); err != nil {
		return nil, err
	}
	type settingRow struct {
		Name  string `gorm:"primaryKey"`
		Value []byte
	}
	row := settingRow{"secret", key}
	if err := s.db.WithContext(ctx).Table("settings").Clauses(clause.OnConflict{DoNothing: true}).Create(&row).Error; err != nil {
		return nil, err
	}
	err := s.db.WithContext(ctx).Table("settings").Where("name = 'secret'").First(&row).Error
	return row.Value, err
}

// token makes a random text for cookies and links, and what is stored of it.
func token() (text string, hash []byte, err error) {
	var b [24]byte
	if _, err := rand.Read(b[:]); err != nil {
		return "", nil, err
	}
	text = base64.RawURLEncoding.EncodeToString(b[:])
	return text, hashOf(text), nil
}

func hashOf(text string) []byte {
	sum := sha256.Sum256([]byte(text))
	return sum[:]
}
