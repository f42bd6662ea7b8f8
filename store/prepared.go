package store

import (
	"context"
	"database/sql"
	"sync"
)

// database reads by statements that are prepared once: to parse one takes longer than to answer it.
type database struct {
	*sql.DB
	mutex sync.RWMutex
	known map[string]*sql.Stmt
}

// mostPrepared is more than the program asks; the variants of a search need no bound of their own.
const mostPrepared = 256

// prepared returns the statement of a query, nil where it is to be asked without.
func (d *database) prepared(ctx context.Context, query string) *sql.Stmt {
	d.mutex.RLock()
	known, full := d.known[query], len(d.known) >= mostPrepared
	d.mutex.RUnlock()
	if known != nil || full {
		return known
	}
	made, err := d.PrepareContext(ctx, query)
	if err != nil {
		return nil // asked without, it says what is wrong
	}
	d.mutex.Lock()
	defer d.mutex.Unlock()
	if another := d.known[query]; another != nil {
		made.Close()
		return another
	}
	if d.known == nil {
		d.known = map[string]*sql.Stmt{}
	}
	d.known[query] = made
	return made
}

// QueryContext is that of sql.DB.
func (d *database) QueryContext(ctx context.Context, query string, arguments ...any) (*sql.Rows, error) {
	if statement := d.prepared(ctx, query); statement != nil {
		return statement.QueryContext(ctx, arguments...)
	}
	return d.DB.QueryContext(ctx, query, arguments...)
}

// QueryRowContext is that of sql.DB.
func (d *database) QueryRowContext(ctx context.Context, query string, arguments ...any) *sql.Row {
	if statement := d.prepared(ctx, query); statement != nil {
		return statement.QueryRowContext(ctx, arguments...)
	}
	return d.DB.QueryRowContext(ctx, query, arguments...)
}
