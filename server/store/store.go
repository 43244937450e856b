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
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/pressly/goose/v3"
	"gorm.io/driver/postgres"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
	"gorm.io/gorm/logger"

	"ubiquant/core/kit"
	"ubiquant/core/screen"
	"ubiquant/core/workspace"
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
	err = goose.UpContext(ctx, raw, "migrations")
	_, unlock := conn.ExecContext(ctx, "SELECT pg_advisory_unlock(470214)")
	if err := errors.Join(err, unlock); err != nil {
		return nil, fmt.Errorf("migrating: %w", err)
	}
	origin, _, err := token()
	if err != nil {
		return nil, err
	}
	return &Store{db: db, url: url, origin: origin}, nil
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
	ID   int64
	Name string
	Seq  int64
	Head []byte
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

// Import stores a workspace as a new one and returns its id.
func (s *Store) Import(ctx context.Context, w *workspace.Workspace) (int64, error) {
	row := workspaceRow{Name: w.Name, Head: workspace.Head(w)}
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := tx.Create(&row).Error; err != nil {
			return err
		}
		return putDocs(tx, row.ID, 0, w.Docs)
	})
	return row.ID, err
}

func putDocs(tx *gorm.DB, id, seq int64, docs []*screen.Document) error {
	rows := make([]documentRow, 0, len(docs))
	for _, d := range docs {
		var out screen.Writer
		workspace.WriteDocument(&out, d)
		rows = append(rows, documentRow{id, string(d.Kind) + ":" + d.ID, seq, out.B})
	}
	if len(rows) == 0 {
		return nil
	}
	return tx.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "workspace_id"}, {Name: "key"}}, DoUpdates: clause.AssignmentColumns([]string{"seq", "body"})}).
		CreateInBatches(rows, 500).
		Error
}

// Live is a stored workspace with everything computed from it. Its methods may
// be used concurrently.
type Live struct {
	ID    int64
	store *Store
	mu    sync.Mutex
	live  *workspace.Live
	seq   int64
	known atomic.Int64 // newest sequence number heard of
	today func() string
}

// Load reads a workspace; id 0 is the first one.
func (s *Store) Load(ctx context.Context, id int64, k *kit.Kit, today func() string) (*Live, error) {
	var row workspaceRow
	l := &Live{store: s, today: today}
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		q := tx.Order("id")
		if id != 0 {
			q = q.Where("id = ?", id)
		}
		if err := q.First(&row).Error; err != nil {
			if errors.Is(err, gorm.ErrRecordNotFound) {
				return ErrNotFound
			}
			return err
		}
		var docs []documentRow
		if err := tx.Where("workspace_id = ?", row.ID).Order("position").Find(&docs).Error; err != nil {
			return err
		}
		parts := make([]workspace.Part, len(docs))
		for i, d := range docs {
			kind, _, _ := strings.Cut(d.Key, ":")
			parts[i] = workspace.Part{Kind: screen.DocKind(kind), Body: d.Body}
		}
		w, err := workspace.ReadParts(row.Head, parts)
		if err != nil {
			return err
		}
		l.live = workspace.Open(w, k, today())
		return nil
	}, &sql.TxOptions{Isolation: sql.LevelRepeatableRead, ReadOnly: true})
	if err != nil {
		return nil, err
	}
	l.ID, l.seq = row.ID, row.Seq
	l.known.Store(row.Seq)
	return l, nil
}

// Read gives fn the workspace, up to date with all that was heard of.
func (l *Live) Read(ctx context.Context, fn func(w *workspace.Live, seq int64) error) error {
	l.mu.Lock()
	defer l.mu.Unlock()
	if l.known.Load() > l.seq {
		if err := l.catchUp(l.store.db.WithContext(ctx)); err != nil {
			return err
		}
	}
	l.live.Today = l.today()
	return fn(l.live, l.seq)
}

// Heard notes that another process reached a sequence number.
func (l *Live) Heard(seq int64) {
	for {
		old := l.known.Load()
		if seq <= old || l.known.CompareAndSwap(old, seq) {
			return
		}
	}
}

func (l *Live) catchUp(tx *gorm.DB) error {
	var rows []ChangeRow
	if err := tx.Where("workspace_id = ? AND seq > ?", l.ID, l.seq).Order("seq").Find(&rows).Error; err != nil {
		return err
	}
	for _, r := range rows {
		c, err := workspace.ReadChange(r.Body, true)
		if err != nil {
			return fmt.Errorf("change %d: %w", r.Seq, err)
		}
		if _, err := l.live.Take(c); err != nil {
			return fmt.Errorf("change %d: %w", r.Seq, err)
		}
		l.seq = r.Seq
	}
	return nil
}

// Outcome is a change that was stored.
type Outcome struct {
	Seq   int64
	Taken workspace.Taken
}

// Take applies a change, stores it and makes it current. then runs with the
// workspace as it is after, before anybody else can change it. build makes the
// change under the lock, so that it may depend on what stands.
func (l *Live) Take(
	ctx context.Context,
	author string,
	undoes int64,
	build func(w *workspace.Live) (workspace.Change, error),
	then func(w *workspace.Live, o Outcome) error,
) error {
	l.mu.Lock()
	defer l.mu.Unlock()
	l.live.Today = l.today()
	var o Outcome
	var next *workspace.Workspace
	err := l.store.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var row workspaceRow
		// The row lock orders changes between processes.
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Select("id", "seq").Where("id = ?", l.ID).First(&row).Error; err != nil {
			return err
		}
		if row.Seq > l.seq {
			if err := l.catchUp(tx); err != nil {
				return err
			}
		}
		change, err := build(l.live)
		if err != nil {
			return err
		}
		next, o.Taken, err = workspace.Apply(l.live.W, change, l.live.Cat, l.live)
		if err != nil {
			return err
		}
		o.Seq = l.seq + 1
		if err := tx.Create(&ChangeRow{WorkspaceID: l.ID, Seq: o.Seq, Author: author, At: time.Now(), Title: change.Title, Docs: strings.Join(o.Taken.Docs, " "), Body: workspace.WriteChange(o.Taken.Applied), Inverse: workspace.WriteChange(o.Taken.Inverse), Undoes: undoes}).Error; err != nil {
			return err
		}
		if undoes > 0 {
			if err := tx.Model(&ChangeRow{}).Where("workspace_id = ? AND seq = ?", l.ID, undoes).Update("undone", true).Error; err != nil {
				return err
			}
		}
		var docs []*screen.Document
		for _, key := range o.Taken.Docs {
			if d, ok := next.Doc(key); ok {
				docs = append(docs, d)
			} else if err := tx.Where("workspace_id = ? AND key = ?", l.ID, key).Delete(&documentRow{}).Error; err != nil {
				return err
			}
		}
		if err := putDocs(tx, l.ID, o.Seq, docs); err != nil {
			return err
		}
		updates := map[string]any{"seq": o.Seq}
		if o.Taken.Rules || len(o.Taken.Docs) == 0 {
			updates["head"] = workspace.Head(next)
		}
		if err := tx.Model(&workspaceRow{}).Where("id = ?", l.ID).Updates(updates).Error; err != nil {
			return err
		}
		return tx.Exec("SELECT pg_notify('ubiquant', ?)", fmt.Sprintf("%d %d %s", l.ID, o.Seq, l.store.origin)).Error
	})
	if err != nil {
		return err
	}
	l.live.Adopt(next, o.Taken)
	l.seq = o.Seq
	l.Heard(o.Seq)
	return then(l.live, o)
}

// Change returns an entry of the history.
func (l *Live) Change(ctx context.Context, seq int64) (ChangeRow, error) {
	var row ChangeRow
	err := l.store.db.WithContext(ctx).Where("workspace_id = ? AND seq = ?", l.ID, seq).First(&row).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		err = ErrNotFound
	}
	return row, err
}

// History lists the newest changes first; doc narrows it to one document.
func (l *Live) History(ctx context.Context, doc string, most int) ([]ChangeRow, error) {
	var rows []ChangeRow
	q := l.store.db.WithContext(ctx).Omit("body", "inverse").Where("workspace_id = ?", l.ID)
	if doc != "" {
		q = q.Where("position(? in docs || ' ') > 0", doc+" ")
	}
	err := q.Order("seq desc").Limit(most).Find(&rows).Error
	return rows, err
}

// Since lists the changes of a document after a sequence number, newest first, with
// what takes each back.
func (l *Live) Since(ctx context.Context, doc string, seq int64) ([]ChangeRow, error) {
	var rows []ChangeRow
	err := l.store.db.WithContext(ctx).
		Omit("body").
		Where("workspace_id = ? AND seq > ? AND position(? in docs || ' ') > 0", l.ID, seq, doc+" ").
		Order("seq desc").
		Find(&rows).
		Error
	return rows, err
}

// Listen calls heard for every change any process stores, until ctx ends; own
// tells the changes of this process, which it tells its windows of by itself. It
// uses a connection of its own and comes back when that is lost.
//
// said, which may be nil, is told what other processes say by Say.
func (s *Store) Listen(
	ctx context.Context,
	heard func(workspace, seq int64, own bool),
	said func(text string),
) error {
	for {
		err := s.listenOnce(ctx, heard, said)
		if ctx.Err() != nil {
			return nil
		}
		select {
		case <-ctx.Done():
			return nil
		case <-time.After(500 * time.Millisecond):
		}
		_ = err // a lost connection is expected when the database restarts; the next turn reconnects
	}
}

// maxSaid bounds what is said at once: the payload of a notification holds 8,000 bytes.
const maxSaid = 4000

// Say tells the other processes on the database something in passing. It is kept nowhere;
// who does not listen just then never hears it.
func (s *Store) Say(ctx context.Context, text string) error {
	if len(text) > maxSaid {
		return fmt.Errorf("%d bytes cannot be said at once; accepted: up to %d", len(text), maxSaid)
	}
	return s.db.WithContext(ctx).Exec("SELECT pg_notify('ubiquant_said', ?)", s.origin+" "+text).Error
}

func (s *Store) listenOnce(
	ctx context.Context,
	heard func(workspace, seq int64, own bool),
	said func(text string),
) error {
	conn, err := pgx.Connect(ctx, s.url)
	if err != nil {
		return err
	}
	defer conn.Close(context.WithoutCancel(ctx))
	if _, err := conn.Exec(ctx, "LISTEN ubiquant; LISTEN ubiquant_said"); err != nil {
		return err
	}
	// What was missed while there was no connection: the numbers as they stand.
	rows, err := conn.Query(ctx, "SELECT id, seq FROM workspaces")
	if err != nil {
		return err
	}
	for rows.Next() {
		var id, seq int64
		if err := rows.Scan(&id, &seq); err != nil {
			return err
		}
		heard(id, seq, false)
	}
	rows.Close()
	for {
		n, err := conn.WaitForNotification(ctx)
		if err != nil {
			return err
		}
		if n.Channel == "ubiquant_said" {
			if origin, text, _ := strings.Cut(n.Payload, " "); origin != s.origin && said != nil {
				said(text)
			}
			continue
		}
		var id, seq int64
		var origin string
		if _, err := fmt.Sscan(n.Payload, &id, &seq, &origin); err == nil {
			heard(id, seq, origin == s.origin)
		}
	}
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
