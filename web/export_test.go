package web

import (
	"github.com/alexedwards/scs/v2"
	"github.com/gin-gonic/gin"

	"kirdu/app"
	"kirdu/web/page"
)

// Routes are all addresses of the application.
func Routes(kitchen *app.Kitchen) gin.RoutesInfo {
	return engineOf(&page.App{Kitchen: kitchen}, scs.New(), staticFiles()).Routes()
}
