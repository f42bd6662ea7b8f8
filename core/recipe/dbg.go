package recipe

import "os"

var dbg = os.Getenv("DBG") != ""
