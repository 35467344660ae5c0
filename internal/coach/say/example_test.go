package say_test

import (
	"fmt"

	"gruppo/internal/coach/say"
)

func ExampleFew() {
	fmt.Println(say.List([]string{"Ada", "Bo", "Caro"}))
	fmt.Println(say.Few([]string{"Ada", "Bo", "Caro", "Dov", "Elif"}))
	fmt.Println(say.Are([]string{"Ada"}), "here;", say.Are([]string{"Ada", "Bo"}), "here")
	fmt.Println(say.Count(1, "try"), say.Count(2, "try"), say.Count(0, "class"))
	// Output:
	// Ada, Bo and Caro
	// Ada, Bo, Caro and 2 more
	// Ada is here; Ada and Bo are here
	// 1 try 2 tries 0 classes
}
