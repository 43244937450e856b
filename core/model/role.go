package model

// Role is what a person may do; each may all that the later ones may.
type Role string

// The roles.
const (
	Keeper  Role = "keeper"  // kit, rules and people
	Builder Role = "builder" // screens
	Reader  Role = "reader"
)

// Rank orders roles; unknown ones have none.
func (r Role) Rank() int { return map[Role]int{Keeper: 3, Builder: 2, Reader: 1}[r] }

// May reports whether somebody in this role may do what needs another.
func (r Role) May(needs Role) bool { return needs == "" || r.Rank() >= needs.Rank() && r.Rank() > 0 }
