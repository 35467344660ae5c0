package exchange

import (
	"encoding/csv"
	"fmt"
	"io"
	"strings"

	"github.com/xuri/excelize/v2"
)

// Sheet is a list that leaves the program: a heading for each column, and the rows.
type Sheet struct {
	Name string
	Head []string
	Rows [][]string
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

// XLSX writes the list as a workbook with one sheet; every cell is text.
func (s Sheet) XLSX(w io.Writer) error {
	f := excelize.NewFile()
	defer f.Close()
	const sheet = "Sheet1"
	bold, err := f.NewStyle(&excelize.Style{Font: &excelize.Font{Bold: true}})
	if err != nil {
		return fmt.Errorf("make the workbook: %w", err)
	}
	for i, r := range append([][]string{s.Head}, s.Rows...) {
		for j, cell := range r {
			at, err := excelize.CoordinatesToCellName(j+1, i+1)
			if err == nil {
				err = f.SetCellStr(sheet, at, cell)
			}
			if err != nil {
				return fmt.Errorf("fill the workbook: %w", err)
			}
		}
	}
	if err := f.SetRowStyle(sheet, 1, 1, bold); err != nil {
		return fmt.Errorf("make the workbook: %w", err)
	}
	for j := range s.Head {
		col, err := excelize.ColumnNumberToName(j + 1)
		if err == nil {
			err = f.SetColWidth(sheet, col, col, 24)
		}
		if err != nil {
			return fmt.Errorf("make the workbook: %w", err)
		}
	}
	if err := f.SetPanes(sheet, &excelize.Panes{Freeze: true, YSplit: 1, TopLeftCell: "A2", ActivePane: "bottomLeft"}); err != nil {
		return fmt.Errorf("make the workbook: %w", err)
	}
	if name := []rune(strings.Map(func(r rune) rune {
		if strings.ContainsRune(`[]:*?/\`, r) {
			return ' '
		}
		return r
	}, s.Name)); len(name) > 0 {
		if err := f.SetSheetName(sheet, string(name[:min(31, len(name))])); err != nil {
			return fmt.Errorf("name the sheet: %w", err)
		}
	}
	_, err = f.WriteTo(w)
	return err
}
