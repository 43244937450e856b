package change

import (
	"errors"
	"fmt"

	"ubiquant/core/kit"
)

// bare is the kit without what the team adds to it, which what is added must fit.
func (t *taking) bare() (*kit.Kit, error) {
	full, ok := t.cat.(interface{ Bare() *kit.Kit })
	if !ok {
		return nil, errors.New("there is no kit to change")
	}
	return full.Bare(), nil
}

func noneOwn(what, id string) error {
	return fmt.Errorf("there is no %s %q of the team's own", what, id)
}
