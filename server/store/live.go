package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"ubiquant/core/change"
	"ubiquant/core/kit"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/screen"
)

// Live is a stored workspace with everything computed from it. Its methods may
// be used concurrently.
type Live struct {
	ID    int64
	store *Store
	mu    sync.Mutex
	live  *live.Live
	seq   int64
	known atomic.Int64 // newest sequence number heard of
	today func() string
}

// Load reads a workspace; id 0 is the first one. It stands on the kit that it names, as
// that is stored, or on k where one is given.
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
		w, err := restore(tx, &row)
		if err != nil {
			return err
		}
		bare := k
		if bare == nil {
			b, err := s.kit(tx, w.Kit)
			if err != nil {
				return err
			}
			bare = b.Kit
			w.Kit.Hash = b.Hash
		}
		l.live = live.Open(w, bare, today())
		l.live.Kits = s.bare
		return nil
	}, &sql.TxOptions{Isolation: sql.LevelRepeatableRead, ReadOnly: true})
	if err != nil {
		return nil, err
	}
	l.ID, l.seq = row.ID, row.Seq
	l.known.Store(row.Seq)
	return l, nil
}

// restore reads a workspace as it stands.
func restore(tx *gorm.DB, row *workspaceRow) (*model.Workspace, error) {
	var stored []documentRow
	if err := tx.Where("workspace_id = ?", row.ID).Find(&stored).Error; err != nil {
		return nil, err
	}
	var sections []partRow
	if err := tx.Where("workspace_id = ?", row.ID).Find(&sections).Error; err != nil {
		return nil, err
	}
	docs := make(map[string][]byte, len(stored))
	for _, d := range stored {
		docs[d.Key] = d.Body
	}
	parts := make(map[model.Part][]byte, len(sections))
	for _, p := range sections {
		parts[model.Part(p.Part)] = p.Body
	}
	w, err := model.Restore(parts, docs)
	if err != nil {
		return nil, fmt.Errorf("workspace %d: %w", row.ID, err)
	}
	w.Name = row.Name
	if w.Kit.Name == "" { // stored before the kit was a part
		w.Kit = model.KitRef{Name: row.Kit, Version: row.KitVersion}
	}
	return w, nil
}

// Read gives fn the workspace, up to date with all that was heard of.
func (l *Live) Read(ctx context.Context, fn func(w *live.Live, seq int64) error) error {
	l.mu.Lock()
	defer l.mu.Unlock()
	if l.known.Load() > l.seq {
		if err := l.catchUp(l.store.db.WithContext(ctx)); err != nil {
			return err
		}
	}
	l.live.SetToday(l.today())
	return fn(l.live, l.seq)
}

// Scene is what screens look like, up to date with all that was heard of. It stays as it
// is, and is used without holding anybody up.
func (l *Live) Scene(ctx context.Context) (*live.Scene, int64, error) {
	var out *live.Scene
	var at int64
	err := l.Read(ctx, func(w *live.Live, seq int64) error {
		out, at = w.Scene(), seq
		return nil
	})
	return out, at, err
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
		c, err := change.Read(r.Body, true)
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
	Taken change.Taken
}

// Take applies a change, stores it and makes it current. then runs with the
// workspace as it is after, before anybody else can change it. build makes the
// change under the lock, so that it may depend on what stands.
func (l *Live) Take(
	ctx context.Context,
	author string,
	undoes int64,
	build func(w *live.Live) (change.Change, error),
	then func(w *live.Live, o Outcome) error,
) error {
	l.mu.Lock()
	defer l.mu.Unlock()
	l.live.SetToday(l.today())
	var o Outcome
	var next *model.Workspace
	err := l.store.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var row workspaceRow
		// The row lock orders changes between processes.
		err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).
			Select("id", "seq").Where("id = ?", l.ID).First(&row).Error
		if err != nil {
			return err
		}
		if row.Seq > l.seq {
			if err := l.catchUp(tx); err != nil {
				return err
			}
		}
		c, err := build(l.live)
		if err != nil {
			return err
		}
		next, o.Taken, err = change.Apply(l.live.W, c, l.live.Cat, l.live)
		if err != nil {
			return err
		}
		o.Seq = l.seq + 1
		return l.write(tx, next, o, author, undoes)
	})
	if err != nil {
		return err
	}
	l.live.Adopt(next, o.Taken)
	l.seq = o.Seq
	l.Heard(o.Seq)
	return then(l.live, o)
}

// write stores a change that was applied, and exactly what it wrote.
func (l *Live) write(tx *gorm.DB, next *model.Workspace, o Outcome, author string, undoes int64) error {
	err := tx.Create(&ChangeRow{
		WorkspaceID: l.ID,
		Seq:         o.Seq,
		Author:      author,
		At:          time.Now(),
		Title:       o.Taken.Applied.Title,
		Docs:        strings.Join(o.Taken.Docs, " "),
		Body:        change.Write(o.Taken.Applied),
		Inverse:     change.Write(o.Taken.Inverse),
		Undoes:      undoes,
	}).Error
	if err != nil {
		return err
	}
	if undoes > 0 {
		undone := tx.Model(&ChangeRow{}).Where("workspace_id = ? AND seq = ?", l.ID, undoes)
		if err := undone.Update("undone", true).Error; err != nil {
			return err
		}
	}
	var docs []*screen.Document
	for _, key := range o.Taken.Docs {
		if d, ok := next.Doc(key); ok {
			docs = append(docs, d)
			continue
		}
		gone := tx.Where("workspace_id = ? AND key = ?", l.ID, key)
		if err := gone.Delete(&documentRow{}).Error; err != nil {
			return err
		}
	}
	if err := putDocs(tx, l.ID, o.Seq, docs); err != nil {
		return err
	}
	if err := putParts(tx, l.ID, o.Seq, next, o.Taken.Parts); err != nil {
		return err
	}
	if err := tx.Model(&workspaceRow{}).Where("id = ?", l.ID).Update("seq", o.Seq).Error; err != nil {
		return err
	}
	return tx.Exec("SELECT pg_notify('ubiquant', ?)", fmt.Sprintf("%d %d %s", l.ID, o.Seq, l.store.origin)).Error
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

// Later lists the changes after a sequence number, the oldest first, at most MaxLater.
func (l *Live) Later(ctx context.Context, seq int64) ([]ChangeRow, error) {
	var rows []ChangeRow
	err := l.store.db.WithContext(ctx).
		Where("workspace_id = ? AND seq > ?", l.ID, seq).Order("seq").Limit(MaxLater).Find(&rows).Error
	return rows, err
}

// MaxLater bounds how far back a change can be taken back by itself.
const MaxLater = 2_000

// Back lists the changes up to a sequence number, newest first and at most so many, with what
// takes each back.
func (l *Live) Back(ctx context.Context, till int64, most int) ([]ChangeRow, error) {
	var rows []ChangeRow
	err := l.store.db.WithContext(ctx).
		Where("workspace_id = ? AND seq <= ?", l.ID, till).
		Order("seq desc").
		Limit(most).
		Find(&rows).
		Error
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
