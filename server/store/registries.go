package store

import (
	"context"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Registry is one that libraries may be fetched from.
type Registry struct {
	Address string    `gorm:"primaryKey" json:"address"`
	At      time.Time `json:"at"`
	By      string    `json:"by"`
	// Token says who asks, where the registry wants to know. It is told to nobody else.
	Token string `json:"-"`
}

// Registries lists those that are allowed, the oldest first.
func (s *Store) Registries(ctx context.Context) ([]Registry, error) {
	rows := []Registry{}
	err := s.db.WithContext(ctx).Order("at, address").Find(&rows).Error
	return rows, err
}

// AllowRegistry lets libraries be fetched from an address, and notes who said so. A token takes the
// place of one that was given before; without one that stays.
func (s *Store) AllowRegistry(ctx context.Context, address, token, by string) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		r := tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&Registry{Address: address, At: time.Now(), By: by, Token: token})
		if r.Error != nil {
			return r.Error
		}
		if r.RowsAffected > 0 {
			if err := note(tx, by, by, "allowed libraries from "+address); err != nil {
				return err
			}
		}
		if token == "" {
			return nil
		}
		if err := tx.Model(&Registry{}).Where("address = ?", address).Update("token", token).Error; err != nil {
			return err
		}
		return note(tx, by, by, "gave a token for "+address)
	})
}

// ForbidRegistry takes that back.
func (s *Store) ForbidRegistry(ctx context.Context, address, by string) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		r := tx.Delete(&Registry{}, "address = ?", address)
		if r.Error != nil {
			return r.Error
		}
		if r.RowsAffected == 0 {
			return ErrNotFound
		}
		return note(tx, by, by, "no longer allows libraries from "+address)
	})
}
