package store

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"ubiquant/core/kit"
	"ubiquant/core/kit/pack"
	"ubiquant/core/model"
)

// KitRow is a stored kit without its content.
type KitRow struct {
	Hash       string     `gorm:"primaryKey" json:"hash"`
	Name       string     `json:"name"`
	Version    string     `json:"version"`
	Drawn      string     `json:"drawn"`
	Components int        `json:"components"`
	Bytes      int        `json:"bytes"`
	At         time.Time  `json:"at"`
	By         string     `json:"by"`
	LeftAt     *time.Time `json:"leftAt"`
}

// TableName is the table that gorm reads.
func (KitRow) TableName() string { return "kits" }

type kitBody struct {
	KitRow
	Body []byte
}

// PutKit stores a kit; the same content again is the same kit, and waits again where it
// had been left.
func (s *Store) PutKit(ctx context.Context, a *pack.Archive, by string) (KitRow, error) {
	body, err := a.Bytes()
	if err != nil {
		return KitRow{}, err
	}
	row := kitBody{KitRow{
		Hash: a.Hash(), Name: a.Meta.Name, Version: a.Meta.Version, Drawn: a.Meta.Drawn,
		Components: len(a.Catalog.Entries), Bytes: len(body), At: time.Now(), By: by,
	}, body}
	err = s.db.WithContext(ctx).Clauses(clause.OnConflict{
		Columns: []clause.Column{{Name: "hash"}}, DoUpdates: clause.Assignments(map[string]any{"left_at": nil}),
	}).Create(&row).Error
	return row.KitRow, err
}

// Kits lists the stored kits, the newest first.
func (s *Store) Kits(ctx context.Context) ([]KitRow, error) {
	rows := []KitRow{}
	err := s.db.WithContext(ctx).Order("at DESC, hash").Find(&rows).Error
	return rows, err
}

// LeaveKit notes that a kit was looked at and left; back takes that back.
func (s *Store) LeaveKit(ctx context.Context, hash string, back bool) error {
	var at *time.Time
	if !back {
		now := time.Now()
		at = &now
	}
	r := s.db.WithContext(ctx).Model(&KitRow{}).Where("hash = ?", hash).Update("left_at", at)
	if r.Error == nil && r.RowsAffected == 0 {
		return ErrNotFound
	}
	return r.Error
}

// cached kits: those in use, and the one or two that are looked at.
const kitsCached = 6

// Kit gives a kit as a server uses it: by its hash, or where a reference has none by name
// and version, the newest of these.
func (s *Store) Kit(ctx context.Context, ref model.KitRef) (*pack.Bundle, error) {
	return s.kit(s.db.WithContext(ctx), ref)
}

func (s *Store) kit(tx *gorm.DB, ref model.KitRef) (*pack.Bundle, error) {
	s.kits.Lock()
	defer s.kits.Unlock()
	for i, b := range s.kits.list {
		if ref.Hash != "" && b.Hash == ref.Hash || ref.Hash == "" && b.Meta.Name == ref.Name && b.Meta.Version == ref.Version {
			s.kits.list = append(append(s.kits.list[:i:i], s.kits.list[i+1:]...), b)
			return b, nil
		}
	}
	if i := slices.IndexFunc(s.kits.offered, func(b *pack.Bundle) bool { return b.Hash == ref.Hash }); i >= 0 {
		return s.kits.offered[i], nil
	}
	a, hash, err := archive(tx, ref)
	if err != nil {
		return nil, err
	}
	b, err := a.Bundle()
	if err != nil {
		return nil, err
	}
	b.Hash = hash // as it was stored, whatever this program would write now
	s.kits.list = append(s.kits.list, b)
	if n := len(s.kits.list) - kitsCached; n > 0 {
		s.kits.list = s.kits.list[n:]
	}
	return b, nil
}

// archive reads a stored kit, with the hash that it is stored under.
func archive(tx *gorm.DB, ref model.KitRef) (*pack.Archive, string, error) {
	var row kitBody
	q := tx.Order("at DESC, hash")
	switch {
	case ref.Hash != "":
		q = q.Where("hash = ?", ref.Hash)
	default:
		q = q.Where("name = ? AND version = ?", ref.Name, ref.Version)
	}
	if err := q.Table("kits").First(&row).Error; err != nil {
		if errors.Is(err, gorm.ErrRecordNotFound) {
			return nil, "", fmt.Errorf("the kit %s %s is not stored here: bring it in with ubiquant intake: %w", ref.Name, ref.Version, ErrNotFound)
		}
		return nil, "", err
	}
	a, err := pack.Read(row.Body)
	if err != nil {
		return nil, "", fmt.Errorf("the stored kit %s %s: %w", row.Name, row.Version, err)
	}
	return a, row.Hash, nil
}

// Archive gives a stored kit as it was packed.
func (s *Store) Archive(ctx context.Context, ref model.KitRef) (*pack.Archive, error) {
	a, _, err := archive(s.db.WithContext(ctx), ref)
	return a, err
}

// offeredKits bounds the kits that are looked at and not stored.
const offeredKits = 12

// Offer makes a kit known by its hash that is not stored, as long as few others are offered.
func (s *Store) Offer(b *pack.Bundle) {
	s.kits.Lock()
	defer s.kits.Unlock()
	s.kits.offered = slices.DeleteFunc(s.kits.offered, func(o *pack.Bundle) bool { return o.Hash == b.Hash })
	s.kits.offered = append(s.kits.offered, b)
	if n := len(s.kits.offered) - offeredKits; n > 0 {
		s.kits.offered = slices.Delete(s.kits.offered, 0, n)
	}
}

// bare gives a kit for computing.
func (s *Store) bare(ref model.KitRef) (*kit.Kit, error) {
	b, err := s.Kit(context.Background(), ref)
	if err != nil {
		return nil, err
	}
	return b.Kit, nil
}

type mappingRow struct {
	FromName string `gorm:"primaryKey"`
	ToName   string `gorm:"primaryKey"`
	At       time.Time
	By       string
	Body     []byte
}

func (mappingRow) TableName() string { return "kit_mappings" }

// Mapping is what was decided about one library in another, as a file; nil where nothing
// was. A library and its next version have one name: what is decided holds for the next.
func (s *Store) Mapping(ctx context.Context, from, to string) ([]byte, error) {
	var row mappingRow
	err := s.db.WithContext(ctx).Where("from_name = ? AND to_name = ?", from, to).First(&row).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return nil, nil
	}
	return row.Body, err
}

// PutMapping keeps what was decided.
func (s *Store) PutMapping(ctx context.Context, from, to, by string, body []byte) error {
	row := mappingRow{from, to, time.Now(), by, body}
	return s.db.WithContext(ctx).Clauses(clause.OnConflict{
		Columns:   []clause.Column{{Name: "from_name"}, {Name: "to_name"}},
		DoUpdates: clause.AssignmentColumns([]string{"at", "by", "body"}),
	}).Create(&row).Error
}
