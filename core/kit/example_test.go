package kit_test

import (
	"fmt"

	"ubiquant/core/kit"
)

// A bare manifest is enough: choices are read from the texts of types.
func ExampleRead() {
	k, err := kit.Read(kit.Sources{Name: "@a/b", Version: "2.0.0", Manifest: []byte(`{"modules":[{"declarations":[
		{"tagName":"x-button","slots":[{"name":""}],"members":[
			{"kind":"field","name":"emphasis","attribute":"emphasis","type":{"text":"'strong' | 'soft'"},"default":"'soft'"},
			{"kind":"field","name":"busy","attribute":"busy","type":{"text":"boolean"},"default":"false"}]}]}]}`)})
	if err != nil {
		fmt.Println(err)
		return
	}
	button, _ := k.Component("x-button")
	for _, p := range button.Props {
		fmt.Println(p.Name, p.Type, p.Values, p.Default)
	}
	// Output:
	// emphasis choice [strong soft] soft
	// busy yes/no [] false
}
