package store

import (
	"context"
	"encoding/json"
	"slices"
	"time"

	"gruppo/internal/coach"
	"gruppo/internal/coach/floor"
	"gruppo/internal/day"
)

// Venue is a place with an area to scale, zones that can be booked by themselves and spots where nothing can stand.
type Venue struct {
	ID, Name, Floor string
	Length, Width   float64
	Zones, Blocked  []floor.Area
}

// Draw is the venue's floor with its lines, or the named zone's part of it in use.
func (v Venue) Draw(zone string) floor.Floor {
	f := floor.Of(v.Floor, v.Length, v.Width).With(v.Zones)
	f.Blocked = v.Blocked
	for _, z := range v.Zones {
		if z.Name == zone {
			f.Use = z
		}
	}
	return f
}

// Venues lists the club's places.
func (tx *Tx) Venues(ctx context.Context) ([]Venue, error) {
	vs, err := keep(ctx, tx, "setup", "venues", func() ([]Venue, error) {
		return collect[Venue](ctx, tx, "list venues", `select id, name, floor, length, width, zones, blocked from venue
			where retired_at is null order by name collate names`)
	})
	return slices.Clone(vs), err
}

// PutVenue adds or changes a place.
func (tx *Tx) PutVenue(ctx context.Context, v Venue) error {
	zones, err := json.Marshal(list(v.Zones))
	if err != nil {
		return err
	}
	blocked, err := json.Marshal(list(v.Blocked))
	if err != nil {
		return err
	}
	return tx.exec(ctx, "keep the venue", `insert into venue (club_id, id, name, floor, length, width, zones,
			blocked) values ($1, $2, $3, $4, $5, $6, $7, $8)
		on conflict (club_id, id) do update set name = excluded.name, floor = excluded.floor,
			length = excluded.length, width = excluded.width, zones = excluded.zones, blocked = excluded.blocked`,
		tx.Club, v.ID, v.Name, v.Floor, v.Length, v.Width, zones, blocked)
}

// Kit lists what the club has.
func (tx *Tx) Kit(ctx context.Context) ([]coach.Kit, error) {
	return collect[coach.Kit](ctx, tx, "list kit", `select id, name, count, stands_in from kit
			order by name collate names`)
}

// PutKit keeps things of the club's list, and takes off it those that are gone; what it does not name stays as it is.
func (tx *Tx) PutKit(ctx context.Context, kit []coach.Kit, gone []string) error {
	if err := tx.exec(ctx, "take kit off the list", `delete from kit where id = any($1::uuid[])`, list(gone)); err != nil {
		return err
	}
	var ids, names []string
	for _, k := range kit {
		ids, names = append(ids, k.ID), append(names, k.Name)
	}
	// who is called otherwise lets the name go first: two may change places
	err := tx.exec(ctx, "free the names of the kit", `update kit set name = kit.id::text
			from unnest($1::uuid[], $2::text[]) n (id, name) where kit.id = n.id and kit.name <> n.name`, list(ids), list(names))
	if err != nil {
		return err
	}
	for _, k := range kit {
		err := tx.exec(ctx, "keep the kit", `insert into kit (club_id, id, name, count, stands_in)
			values ($1, $2, $3, $4, $5)
			on conflict (club_id, id) do update set name = excluded.name, count = excluded.count,
				stands_in = excluded.stands_in
			where (kit.name, kit.count, kit.stands_in) is distinct
				from (excluded.name, excluded.count,
				excluded.stands_in)`, tx.Club, k.ID, k.Name, k.Count, list(k.StandsIn))
		if err != nil {
			return taken(err)
		}
	}
	return nil
}

// Class is a standing group.
type Class struct {
	ID, Name  string
	ProgramID string
	Family    coach.Family // of the program
	Weekday   int          // 0 is Sunday
	Starts    string       // 18:00
	Minutes   int
	VenueID   string
	VenueName string
	Zone      string // of the venue; empty: all of it
	Places    int
	StageIDs  []string
	Enrolled  int
	Began     *day.Day // its first session that was not cancelled; nil: none yet
	Members   []ClassMember
}

// Day is the weekday of the class.
func (c Class) Day() time.Weekday { return time.Weekday(c.Weekday) }

// ClassMember is somebody who usually leads the class, and when they leave.
type ClassMember struct {
	Member string `json:"member"`
	Name   string `json:"name"`
	Role   string `json:"role"`
	Until  int    `json:"until"` // minutes after the start; 0: to the end
}

// Classes lists the club's classes through the week from Monday.
func (tx *Tx) Classes(ctx context.Context) ([]Class, error) {
	cs, err := keep(ctx, tx, "setup", "classes", func() ([]Class, error) { return tx.classes(ctx) })
	return slices.Clone(cs), err
}

func (tx *Tx) classes(ctx context.Context) ([]Class, error) {
	return collect[Class](ctx, tx, "list classes", `select c.id, c.name, c.program_id, g.family, c.weekday,
			to_char(c.starts, 'HH24:MI') as starts, c.minutes, c.venue_id, v.name as venue_name, c.zone, c.places,
		c.stage_ids::text[] as stage_ids, (select count(*) from class_player e where e.class_id = c.id) as enrolled,
		(select min(`+dayOf("s.starts_at")+`) from session s where s.class_id = c.id
			and s.cancelled_at is null) as began,
		(select coalesce(json_agg(json_build_object('member', m.id, 'name', m.name, 'role', m.role, 'until',
			coalesce(cm.until_minute, 0)) order by array_position(array['lead', 'coach', 'helper'], m.role), m.name),
			'[]')
			from class_member cm join member m on m.id = cm.member_id where cm.class_id = c.id) as members
		from class c join venue v on v.id = c.venue_id join program g on g.id = c.program_id
			where c.retired_at is null order by (c.weekday + 6) % 7, c.starts, c.name collate names`)
}

// PutClass adds or changes a class, its members with it.
func (tx *Tx) PutClass(ctx context.Context, c Class) error {
	err := tx.exec(ctx, "keep the class", `insert into class (club_id, id, program_id, name, weekday, starts, minutes,
			venue_id, places, stage_ids, zone)
		values ($1, $2, $3, $4, $5, $6::text::time, $7, $8, $9, $10::uuid[], $11)
		on conflict (club_id, id) do update set program_id = excluded.program_id, name = excluded.name,
			weekday = excluded.weekday, starts = excluded.starts, minutes = excluded.minutes,
			venue_id = excluded.venue_id, places = excluded.places, stage_ids = excluded.stage_ids,
				zone = excluded.zone`,
		tx.Club, c.ID, c.ProgramID, c.Name, c.Weekday, c.Starts, c.Minutes, c.VenueID, c.Places,
		list(c.StageIDs), c.Zone)
	if err != nil {
		return err
	}
	if err := tx.exec(ctx, "take back the class's members", `delete from class_member
			where class_id = $1`, c.ID); err != nil {
		return err
	}
	for _, m := range c.Members {
		if err := tx.exec(ctx, "keep the class's members", `insert into class_member (club_id, class_id, member_id,
			until_minute) values ($1, $2, $3, nullif($4, 0))`,
			tx.Club, c.ID, m.Member, m.Until); err != nil {
			return err
		}
	}
	return nil
}

// Enrol makes the players the class's own, in place of those it had.
func (tx *Tx) Enrol(ctx context.Context, class string, players []string) error {
	err := tx.exec(ctx, "take players out of the class", `delete from class_player where class_id = $1
			and player_id <> all($2::uuid[])`, class, list(players))
	if err != nil {
		return err
	}
	return tx.exec(ctx, "enrol the players", `insert into class_player (club_id, class_id, player_id)
			select $1, $2, unnest($3::uuid[]) on conflict do nothing`, tx.Club, class, list(players))
}

// EnrolIn sets the classes of one player.
func (tx *Tx) EnrolIn(ctx context.Context, player string, classes []string) error {
	err := tx.exec(ctx, "take the player out of classes", `delete from class_player where player_id = $1
			and class_id <> all($2::uuid[])`, player, list(classes))
	if err != nil {
		return err
	}
	return tx.exec(ctx, "enrol the player", `insert into class_player (club_id, class_id, player_id)
			select $1, unnest($3::uuid[]), $2 on conflict do nothing`, tx.Club, player, list(classes))
}

// ClassesOf lists the ids of the classes a player is in.
func (tx *Tx) ClassesOf(ctx context.Context, player string) ([]string, error) {
	type row struct{ ClassID string }
	rows, err := collect[row](ctx, tx, "list the player's classes", `select class_id from class_player
			where player_id = $1 order by class_id`, player)
	var out []string
	for _, r := range rows {
		out = append(out, r.ClassID)
	}
	return out, err
}
