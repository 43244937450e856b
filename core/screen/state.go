package screen

import "ubiquant/core/kit"

// In is a document's tree in one of its states, and what of the state no longer fits:
// differences from a tree that has changed since may have lost their element. The
// empty name is the usual state.
func In(d *Document, state string, cat kit.Catalog) (*Element, []error) {
	root := d.Root
	s, ok := d.State(state)
	if !ok {
		return root, nil
	}
	var lost []error
	for _, e := range s.Edits {
		next, _, err := Apply(root, e, cat)
		if err != nil {
			lost = append(lost, err)
			continue
		}
		root = next
	}
	return root, lost
}
