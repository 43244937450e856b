package store

import (
	"fmt"
	"strings"
	"unicode/utf8"

	"github.com/trustelem/zxcvbn"
)

const (
	minPassword = 12  // letters
	maxPassword = 256 // bytes: hashing takes time with the length
	// strong is the least that a password is worth, of 0 to 4: safe against somebody who
	// tries at the sign-in (zxcvbn, Wheeler 2016; it knows common passwords and names).
	strong = 3
)

// CheckPassword says what is wrong with a password for somebody.
func CheckPassword(password string, u User) error {
	switch {
	case utf8.RuneCountInString(password) < minPassword:
		return fmt.Errorf("a password has at least %d letters", minPassword)
	case len(password) > maxPassword:
		return fmt.Errorf("a password has at most %d bytes", maxPassword)
	}
	own := append(strings.Fields(strings.ToLower(u.FullName)), u.Name, "ubiquant")
	for _, name := range own {
		if len(name) > 2 && strings.Contains(strings.ToLower(password), name) {
			return fmt.Errorf("a password does not hold the own name or that of this application")
		}
	}
	if zxcvbn.PasswordStrength(password, own).Score < strong {
		return fmt.Errorf("this password is among those that are tried first; take some words that do not belong together")
	}
	return nil
}
