package server

import (
	"context"
	"fmt"
	"io"
	"net/http"
	"regexp"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"

	"brackmoor/server/photo"
	"brackmoor/store"
)

// PhotoList is the photos of a motor, oldest first.
type PhotoList struct {
	Photos []store.Photo `json:"photos" nullable:"false"`
}

// photoName bounds the name of a photo's file.
const photoName = 80

// photoID is an id that a browser gives a photo, so that it is kept once however often it is sent.
var photoID = regexp.MustCompile(`^[0-9A-Za-z-]{16,64}$`)

func (s *service) photos(api huma.API) {
	huma.Register(
		api,
		operation("photosOfMotor", "GET", "/motors/{id}/photos", "The photos of its plate and cabinet"),
		func(ctx context.Context, in *WithID) (*body[PhotoList], error) {
			if _, err := s.Store.Motor(ctx, in.ID); err != nil {
				return nil, s.fault(ctx, err)
			}
			list, err := s.Store.Photos(ctx, in.ID)
			return &body[PhotoList]{PhotoList{list}}, s.fault(ctx, err)
		},
	)
	s.deletable(api, "Photo", "/photos/{id}", s.Store.DeletePhoto, s.Store.RestorePhoto)
}

// addPhoto takes a picture as the body of the request, named by its query, and keeps it with what the path names.
func (s *service) addPhoto(
	keep func(ctx context.Context, of string, p store.Photo, jpeg []byte) (store.Photo, error),
) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		picture, ok := s.picture(w, r)
		if !ok {
			return
		}
		name := strings.ToValidUTF8(strings.TrimSpace(r.URL.Query().Get("name")), "")
		if runes := []rune(name); len(runes) > photoName {
			name = string(runes[:photoName])
		}
		id := r.URL.Query().Get("id")
		if id != "" && !photoID.MatchString(id) {
			refuse(
				w,
				huma.Error422UnprocessableEntity(
					"The id of a photo is letters, figures and hyphens, 16 to 64 of them.",
				),
			)
			return
		}
		shows := r.URL.Query().Get("shows")
		if shows != "" && shows != store.ShowsPlate && shows != store.ShowsCabinet {
			refuse(w, huma.Error422UnprocessableEntity("A photo shows a plate or a cabinet."))
			return
		}
		added, err := keep(r.Context(), chi.URLParam(r, "id"),
			store.Photo{ID: id, Shows: shows, Name: name, Width: picture.Width, Height: picture.Height}, picture.JPEG)
		if err != nil {
			refuse(w, s.fault(r.Context(), err))
			return
		}
		writeJSON(w, added)
	}
}

// picture reads one from a request; where it is none ok is false, and that has been said.
func (s *service) picture(w http.ResponseWriter, r *http.Request) (p photo.Picture, ok bool) {
	file, err := io.ReadAll(r.Body)
	if torn(w, err) {
		return p, false
	}
	if err != nil {
		writeProblem(
			w,
			http.StatusRequestEntityTooLarge,
			fmt.Sprintf("The picture is too large: at most %d MB.", photo.MostBytes>>20),
		)
		return p, false
	}
	p, err = photo.Clean(r.Context(), file)
	switch {
	case err == nil:
		return p, true
	case r.Context().Err() != nil:
		refuse(w, s.fault(r.Context(), err))
	default:
		writeProblem(w, http.StatusUnprocessableEntity, err.Error())
	}
	return p, false
}

// photoImage sends a photo. What an id names never changes.
func (s *service) photoImage(w http.ResponseWriter, r *http.Request) {
	jpeg, err := s.Store.PhotoImage(r.Context(), chi.URLParam(r, "id"))
	if err != nil {
		refuse(w, s.fault(r.Context(), err))
		return
	}
	w.Header().Set("Content-Type", "image/jpeg")
	w.Header().Set("Cache-Control", "private, max-age=86400")
	send(w, r, jpeg)
}
