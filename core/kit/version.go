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
	// A range is wanted: the least version asked for is in it, or what is asked for holds its least.
	least, err := semver.NewVersion(strings.TrimLeft(has, "^~>= v"))
	if err != nil {
		return false, false
	}
	want, err := semver.NewConstraint(wanted)
	if err != nil || want.Check(least) {
		return err == nil, err == nil
	}
	asked, err := semver.NewConstraint(has)
	from, bad := semver.NewVersion(strings.TrimLeft(wanted, "^~>= v"))
	return err == nil && bad == nil && asked.Check(from), true
}
