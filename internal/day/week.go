package day

import (
	"strings"
	"time"
)

// sundayFirst and saturdayFirst are zones where calendars begin the week on another day than Monday: Unicode CLDR,
// supplemental weekData (from memory), by the country a zone lies in. A prefix that ends in a stroke stands for every
// zone in it.
var (
	sundayFirst = []string{
		"America/",
		"US/",
		"Canada/",
		"Brazil/",
		"Pacific/Honolulu",
		"Pacific/Guam",
		"Pacific/Pago_Pago",
		"Asia/Tokyo",
		"Asia/Seoul",
		"Asia/Hong_Kong",
		"Asia/Macau",
		"Asia/Taipei",
		"Asia/Manila",
		"Asia/Bangkok",
		"Asia/Jakarta",
		"Asia/Singapore",
		"Asia/Kolkata",
		"Asia/Calcutta",
		"Asia/Karachi",
		"Asia/Dhaka",
		"Asia/Jerusalem",
		"Asia/Riyadh",
		"Africa/Johannesburg",
		"Africa/Nairobi",
		"Africa/Addis_Ababa",
	}
	mondayFirst = []string{
		"America/Argentina/",
		"America/Buenos_Aires",
		"America/Santiago",
		"America/Montevideo",
		"America/Guayaquil",
		"America/Costa_Rica",
	}
	saturdayFirst = []string{
		"Africa/Cairo",
		"Africa/Algiers",
		"Africa/Tripoli",
		"Africa/Khartoum",
		"Asia/Baghdad",
		"Asia/Amman",
		"Asia/Damascus",
		"Asia/Kuwait",
		"Asia/Qatar",
		"Asia/Bahrain",
		"Asia/Muscat",
		"Asia/Tehran",
		"Asia/Kabul",
	}
)

// WeekBegins is the day with which the week begins where a zone is.
func WeekBegins(zone string) time.Weekday {
	in := func(zones []string) bool {
		for _, z := range zones {
			if zone == z || strings.HasSuffix(z, "/") && strings.HasPrefix(zone, z) {
				return true
			}
		}
		return false
	}
	switch {
	case in(mondayFirst):
		return time.Monday
	case in(sundayFirst):
		return time.Sunday
	case in(saturdayFirst):
		return time.Saturday
	}
	return time.Monday
}

// Week is the days of a week in their order there, the first as WeekBegins has it.
func Week(zone string) (days []time.Weekday) {
	for i := range 7 {
		days = append(days, (WeekBegins(zone)+time.Weekday(i))%7)
	}
	return days
}

// InWeek is a weekday's place in that week, from 0.
func InWeek(zone string, d time.Weekday) int { return int(d-WeekBegins(zone)+7) % 7 }
