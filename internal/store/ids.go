package store

import (
	"context"
	"fmt"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgtype"
)

// NewID is a new UUIDv7: ids sort by the time they were made.
func NewID() string { return uuid.Must(uuid.NewV7()).String() }

// IsID reports whether s is an id as the program writes them, 36 characters, so that a made-up address is "not found"
// and not an error.
func IsID(s string) bool { return len(s) == 36 && uuid.Validate(s) == nil }

// idCodec passes ids between the program, where they are text, and the database in its own form. Without it a list of
// ids is tried in that form first, refused with all of it in the words, and sent as text.
type idCodec struct{ pgtype.UUIDCodec }

// withIDs teaches a connection.
func withIDs(_ context.Context, c *pgx.Conn) error {
	m := c.TypeMap()
	id := &pgtype.Type{Name: "uuid", OID: pgtype.UUIDOID, Codec: idCodec{}}
	m.RegisterType(id)
	m.RegisterType(&pgtype.Type{Name: "_uuid", OID: pgtype.UUIDArrayOID, Codec: &pgtype.ArrayCodec{ElementType: id}})
	return nil
}

func (c idCodec) PlanEncode(m *pgtype.Map, oid uint32, format int16, value any) pgtype.EncodePlan {
	if _, text := value.(string); text && format == pgtype.BinaryFormatCode {
		return encodeID{}
	}
	return c.UUIDCodec.PlanEncode(m, oid, format, value)
}

func (c idCodec) PlanScan(m *pgtype.Map, oid uint32, format int16, target any) pgtype.ScanPlan {
	if _, text := target.(*string); text && format == pgtype.BinaryFormatCode {
		return scanID{}
	}
	return c.UUIDCodec.PlanScan(m, oid, format, target)
}

type encodeID struct{}

func (encodeID) Encode(value any, to []byte) ([]byte, error) {
	id, err := uuid.Parse(value.(string))
	return append(to, id[:]...), err
}

type scanID struct{}

func (scanID) Scan(from []byte, target any) error {
	if len(from) != 16 {
		return fmt.Errorf("%d bytes are no id", len(from))
	}
	*target.(*string) = uuid.UUID(from).String()
	return nil
}

// ids write the same id once: rows repeat whose they are, and there are hundreds.
type ids map[[16]byte]string

// of is the id as the program writes it; empty where there is none.
func (w ids) of(id pgtype.UUID) string {
	if !id.Valid {
		return ""
	}
	s, known := w[id.Bytes]
	if !known {
		s = uuid.UUID(id.Bytes).String()
		w[id.Bytes] = s
	}
	return s
}
