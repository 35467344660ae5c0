package exchange

import (
	"encoding/csv"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"

	"github.com/xuri/excelize/v2"
)

// Sheet is a list that leaves the program: a heading for each column, and the rows.
type Sheet struct {
	Name string
	Head []string
	Rows [][]string

	Figures []int // columns of numbers, from 0
}

// CSV writes the list as comma separated values in UTF-8 with a mark at the start, so that spreadsheet programs read
// names rightly. A cell that such a program would take for a formula is led by an apostrophe.
func (s Sheet) CSV(w io.Writer) error {
	if _, err := io.WriteString(w, "\ufeff"); err != nil {
		return err
	}
	c := csv.NewWriter(w)
	c.UseCRLF = true
	for _, r := range append([][]string{s.Head}, s.Rows...) {
		row := make([]string, len(r))
		for i, cell := range r {
			if cell != "" && strings.ContainsRune("=+-@\t\r", rune(cell[0])) {
				cell = "'" + cell
			}
			row[i] = cell
		}
		if err := c.Write(row); err != nil {
			return err
		}
	}
	c.Flush()
	return c.Error()
}

// XLSX writes the list as a workbook with one sheet.
func (s Sheet) XLSX(w io.Writer) error { return Workbook(w, s) }

// Workbook writes lists as a workbook with a sheet for each; a cell is text, but in the columns of figures.
func Workbook(w io.Writer, sheets ...Sheet) error {
	f := excelize.NewFile()
	defer f.Close()
	for i, s := range sheets {
		name := s.sheetName(i)
		if i == 0 {
			if err := f.SetSheetName("Sheet1", name); err != nil {
				return fmt.Errorf("name the sheet: %w", err)
			}
		} else if _, err := f.NewSheet(name); err != nil {
			return fmt.Errorf("make the sheet: %w", err)
		}
		if err := s.into(f, name); err != nil {
			return fmt.Errorf("fill the workbook: %w", err)
		}
	}
	_, err := f.WriteTo(w)
	return err
}

// sheetName is what a sheet may be called: 31 letters, and not all of them.
func (s Sheet) sheetName(i int) string {
	name := []rune(strings.Map(func(r rune) rune {
		if strings.ContainsRune(`[]:*?/\`, r) {
			return ' '
		}
		return r
	}, s.Name))
	if len(name) == 0 {
		return fmt.Sprint("Sheet", i+1)
	}
	return string(name[:min(31, len(name))])
}

func (s Sheet) into(f *excelize.File, sheet string) error {
	bold, err := f.NewStyle(&excelize.Style{Font: &excelize.Font{Bold: true}})
	if err != nil {
		return err
	}
	for i, r := range append([][]string{s.Head}, s.Rows...) {
		for j, cell := range r {
			at, err := excelize.CoordinatesToCellName(j+1, i+1)
			if err != nil {
				return err
			}
			if x, ferr := strconv.ParseFloat(cell, 64); i > 0 && ferr == nil && slices.Contains(s.Figures, j) {
				err = f.SetCellFloat(sheet, at, x, -1, 64)
			} else {
				err = f.SetCellStr(sheet, at, cell)
			}
			if err != nil {
				return err
			}
		}
	}
	if err := f.SetRowStyle(sheet, 1, 1, bold); err != nil {
		return err
	}
	for j := range s.Head {
		col, err := excelize.ColumnNumberToName(j + 1)
		if err != nil {
			return err
		}
		if err := f.SetColWidth(sheet, col, col, 24); err != nil {
			return err
		}
	}
	return f.SetPanes(sheet, &excelize.Panes{Freeze: true, YSplit: 1, TopLeftCell: "A2", ActivePane: "bottomLeft"})
}
