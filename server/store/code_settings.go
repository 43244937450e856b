package store

import (
	"context"
	"errors"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

type codeSettings struct {
	Repository string `gorm:"primaryKey"`
	Settings   string
}

func (codeSettings) TableName() string { return "code_settings" }

// CodeSettings is the text of a repository's settings when its screens were read from it last;
// empty where that is not known.
func (s *Store) CodeSettings(ctx context.Context, repository string) ([]byte, error) {
	var row codeSettings
	err := s.db.WithContext(ctx).First(&row, "repository = ?", repository).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return nil, nil
	}
	return []byte(row.Settings), err
}

// PutCodeSettings keeps it.
func (s *Store) PutCodeSettings(ctx context.Context, repository string, settings []byte) error {
	return s.db.WithContext(ctx).Clauses(clause.OnConflict{UpdateAll: true}).Create(&codeSettings{repository, string(settings)}).Error
}
