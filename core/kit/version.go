package kit

import (
	"strings"

	"github.com/Masterminds/semver/v3"
)

// Admits reports whether what an application asks for and what is wanted go
// together. known is false where the former is an address that tells no version.
func Admits(has, wanted string) (fits, known bool) {
	if i := strings.LastIndex(has, "-"); strings.HasSuffix(has, ".tgz") &&
		i >= 0 { // a packed package, as deliveries hold it
		has = strings.TrimSuffix(has[i+1:], ".tgz")
	}
	if version, err := semver.NewVersion(wanted); err == nil {
		asked, err := semver.NewConstraint(has)
		return err == nil && asked.Check(version), err == nil
	}
	// A range is wanted: the least version asked for must be in it.
	least, err := semver.NewVersion(strings.TrimLeft(has, "^~>= v"))
	if err != nil {
		return false, false
	}
	want, err := semver.NewConstraint(wanted)
	return err == nil && want.Check(least), err == nil
}
