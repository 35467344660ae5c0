// Package exchange reads and writes files that people bring from elsewhere.
package exchange

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"unicode/utf8"

	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"
)

// MaxBytes and MaxRows bound what a file may hold.
const (
	MaxBytes   = 5 << 20
	MaxRows    = 20_000
	MaxColumns = 60
	MaxCell    = 2_000 // letters
	maxNames   = 60    // in one cell
)

// Table is a file of separated values as rows of cells.
type Table struct {
	Rows      []Record
	Header    []string // empty when the first row is one of the list already
	Delimiter rune
	Encoding  string
}

// Record is one row; Line is where it begins in the file, counted from 1.
type Record struct {
	Line  int
	Cells []string
}

// List is what the rows of a file are.
type List struct {
	One     string                    // a player, a drill
	heading func(heading string) bool // whether a heading is one of its columns
}

// ReadTable reads comma, semicolon or tab separated values in UTF-8 (with or without a mark at the start), UTF-16 with
// a mark, or Windows-1252. Its errors are sentences for the person who brought the file.
func ReadTable(b []byte, of List) (Table, error) {
	if len(b) > MaxBytes {
		return Table{}, fmt.Errorf(
			"that is %.0f MB; a list of %ss is at most %d MB",
			float64(len(b))/(1<<20),
			of.One,
			MaxBytes>>20,
		)
	}
	text, encoding, err := decode(b)
	if err != nil {
		return Table{}, err
	}
	if strings.TrimSpace(text) == "" {
		return Table{}, fmt.Errorf("there is nothing in it yet: no line with a %s", of.One)
	}
	t := Table{Delimiter: delimiter(text), Encoding: encoding}
	var wide *tooWide
	if t.Rows, err = parse(text, t.Delimiter, false); errors.As(err, &wide) {
		return Table{}, wide
	} else if err != nil {
		// Quotes inside a name, as in Jo "JJ" Lee, are not how the format is meant, but what people write.
		var strict *csv.ParseError
		rows, lazy := parse(text, t.Delimiter, true)
		if !errors.As(err, &strict) {
			return Table{}, err
		}
		if errors.As(lazy, &wide) {
			return Table{}, wide
		}
		if errors.Is(strict.Err, csv.ErrQuote) && strings.Count(text, `"`)%2 == 1 || lazy != nil {
			return Table{}, fmt.Errorf("line %d: a quotation mark is opened and not closed; take it out or close it", strict.StartLine)
		}
		t.Rows = rows
	}
	if len(t.Rows) > MaxRows+1 { // with the headings
		return Table{}, fmt.Errorf("that is more than %d rows; bring at most so many at a time", MaxRows)
	}
	if len(t.Rows) > 0 && slices.ContainsFunc(t.Rows[0].Cells, of.heading) {
		t.Header, t.Rows = t.Rows[0].Cells, t.Rows[1:]
	}
	if len(t.Rows) == 0 {
		return Table{}, fmt.Errorf("there is a line of headings, and no %s under it", of.One)
	}
	return t, nil
}

func decode(b []byte) (text, encoding string, err error) {
	kinds := []struct{ magic, says string }{
		{
			"PK\x03\x04",
			"this is a spreadsheet or an archive, not a text list; in the spreadsheet choose Save as, CSV, and bring that",
		},
		{"\xd0\xcf\x11\xe0", "this is an old spreadsheet file; open it, choose Save as, CSV, and bring that"},
		{"%PDF", "this is a PDF; bring the list as CSV, or copy the rows and paste them"},
		{"\x89PNG", "this is a picture; bring the list as CSV, or type the names"},
		{"\xff\xd8\xff", "this is a picture; bring the list as CSV, or type the names"},
		{"{\\rtf", "this is a text document; copy the rows and paste them"},
	}
	for _, k := range kinds {
		if bytes.HasPrefix(b, []byte(k.magic)) {
			return "", "", errors.New(k.says)
		}
	}
	if bytes.HasPrefix(b, []byte{0xff, 0xfe}) || bytes.HasPrefix(b, []byte{0xfe, 0xff}) {
		out, err := unicode.UTF16(unicode.LittleEndian, unicode.UseBOM).NewDecoder().Bytes(b)
		if err != nil {
			return "", "", errors.New("this file is broken; save it again as CSV")
		}
		return string(out), "UTF-16", nil
	}
	if bytes.IndexByte(b, 0) >= 0 {
		return "", "", errors.New("this is not a text file; bring the list as CSV")
	}
	b = bytes.TrimPrefix(b, []byte("\xef\xbb\xbf"))
	if utf8.Valid(b) {
		return string(b), "UTF-8", nil
	}
	out, err := charmap.Windows1252.NewDecoder().Bytes(b)
	if err != nil {
		return "", "", errors.New("the letters of this file cannot be read; save it as CSV in UTF-8")
	}
	return string(out), "Windows-1252", nil
}

// delimiter is the mark that stands as often in the first ten lines as in the very first, outside quotes: a list inside
// a cell may hold more of another.
func delimiter(text string) rune {
	best, bestScore := ',', 0
	for _, d := range []rune{'\t', ';', ','} {
		var counts []int
		n, quoted := 0, false
		for _, r := range text + "\n" {
			switch {
			case r == '"':
				quoted = !quoted
			case r == d && !quoted:
				n++
			case r == '\n' && !quoted:
				counts = append(counts, n)
				n = 0
			}
			if len(counts) == 10 {
				break
			}
		}
		score := 0
		for _, c := range counts {
			if c == counts[0] && c > 0 {
				score++
			}
		}
		if score > bestScore {
			best, bestScore = d, score
		}
	}
	return best
}

// tooWide is a row of more columns than a list can have.
type tooWide struct{ line, columns int }

func (e *tooWide) Error() string {
	return fmt.Sprintf("line %d has %d columns; a list has at most %d", e.line, e.columns, MaxColumns)
}

func parse(text string, d rune, lazy bool) ([]Record, error) {
	r := csv.NewReader(strings.NewReader(text))
	r.Comma, r.FieldsPerRecord, r.LazyQuotes = d, -1, lazy
	var out []Record
	for {
		cells, err := r.Read()
		if errors.Is(err, io.EOF) {
			return out, nil
		}
		if err != nil {
			return nil, err
		}
		line, _ := r.FieldPos(0)
		if len(cells) > MaxColumns {
			return nil, &tooWide{line, len(cells)}
		}
		if len(out) > MaxRows+1 {
			return out, nil // said by the caller
		}
		empty := true
		for i := range cells {
			cells[i] = strings.Join(strings.Fields(cells[i]), " ") // a line break inside a cell is a space
			if len(cells[i]) > 4*MaxCell {
				return nil, fmt.Errorf(
					"line %d: a cell of %d letters; %d are the most",
					line,
					len([]rune(cells[i])),
					MaxCell,
				)
			}
			empty = empty && cells[i] == ""
		}
		if !empty {
			out = append(out, Record{line, cells})
		}
	}
}
