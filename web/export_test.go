package web

import (
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/gin-gonic/gin"

	"kirdu/app"
	"kirdu/web/frame"
)

// Routes are all addresses of the application.
func Routes(kitchen *app.Kitchen) gin.RoutesInfo {
	return engineOf(&frame.App{Zone: time.UTC}, kitchen, scs.New(), staticFiles()).Routes()
}
