package server_test

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/png"
	"io"
	"net/http"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"juxtagram/core/attach"
	"juxtagram/server"
	"juxtagram/store"
)

// handIn hands in a file.
func (d *desk) handIn(c *client, name, content string) server.AttachmentInfo {
	return get[server.AttachmentInfo](c, "POST", d.at+"/attachments?name="+url.QueryEscape(name), raw(content))
}

// file fetches an attachment.
func (d *desk) file(c *client, uid string) *http.Response {
	answer, err := c.http.Get(c.h.url + "/attachments/" + strings.TrimPrefix(d.at, "/api/repositories/") + "/" + uid)
	require.NoError(d.t, err)
	d.t.Cleanup(func() { _ = answer.Body.Close() })
	return answer
}

func picture(t *testing.T) string {
	var b bytes.Buffer
	require.NoError(t, png.Encode(&b, image.NewGray(image.Rect(0, 0, 30, 20))))
	return b.String()
}

func TestAttachments(t *testing.T) {
	d := desked(t, func(h *house, k *client) int64 { return h.surveyed(k) })
	tide := d.handIn(d.writer, "tide.png", picture(t)+"<script>")
	page := d.handIn(d.writer, "photo.png", "<!DOCTYPE html><script>alert(1)</script>")
	assert.True(t, tide.Picture)
	assert.False(t, page.Picture)
	assert.Equal(t, "its name ends in .png, but by its bytes it is text/html", page.Remark)

	assert.Equal(t, 200, d.file(d.writer, tide.UID).StatusCode)
	assert.Equal(t, 404, d.file(d.keeper, tide.UID).StatusCode, "no text uses it yet")
	// nobody shows others what they cannot see themselves
	stolen := d.write(d.reader, any2{"kind": "repository"}, tide.Markdown).Thread
	assert.NotContains(t, stolen.HTML, "<img")
	assert.Equal(t, 404, d.file(d.reader, tide.UID).StatusCode)

	hidden := d.write(d.writer, any2{"kind": "repository"}, tide.Markdown, any2{"private": true}).Thread
	assert.Equal(t, 404, d.file(d.reader, tide.UID).StatusCode, "the text is private")
	get[struct{}](d.writer, "DELETE", fmt.Sprintf("%s/annotations/%d", d.at, hidden.ID), nil)

	shown := d.write(d.writer, any2{"kind": "repository"}, "See "+tide.Markdown+" and "+page.Markdown).Thread
	assert.Contains(t, shown.HTML, `<img src="/attachments/`)
	got := d.file(d.reader, tide.UID)
	content, err := io.ReadAll(got.Body)
	require.NoError(t, err)
	assert.NotContains(t, string(content), "script")
	assert.Equal(t, []string{"image/png", "inline; filename=tide.png", "default-src 'none'; sandbox", "nosniff"},
		[]string{got.Header.Get("Content-Type"), got.Header.Get("Content-Disposition"), got.Header.Get("Content-Security-Policy"), got.Header.Get("X-Content-Type-Options")})
	got = d.file(d.reader, page.UID)
	assert.Equal(t, []string{"application/octet-stream", "attachment; filename=photo.png", "default-src 'none'; sandbox"},
		[]string{got.Header.Get("Content-Type"), got.Header.Get("Content-Disposition"), got.Header.Get("Content-Security-Policy")})
	assert.Equal(t, 404, d.file(d.person("stranger", false), page.UID).StatusCode)

	get[struct{}](d.writer, "DELETE", fmt.Sprintf("%s/annotations/%d", d.at, shown.ID), nil)
	assert.Equal(t, 404, d.file(d.reader, tide.UID).StatusCode, "the text is gone")
	get[struct{}](d.writer, "POST", fmt.Sprintf("%s/annotations/%d/restore", d.at, shown.ID), nil)
	assert.Equal(t, 200, d.file(d.reader, tide.UID).StatusCode)

	var bomb bytes.Buffer
	require.NoError(t, png.Encode(&bomb, image.NewPaletted(image.Rect(0, 0, 10_000, 5000), color.Palette{color.Black})))
	for name, content := range map[string]string{"empty": "", "a bomb": bomb.String()} {
		status, text := d.writer.do("POST", d.at+"/attachments?name=a.png", raw(content))
		assert.GreaterOrEqual(t, status, 400, "%s: %s", name, text)
	}
	status, _ := d.writer.do("POST", d.at+"/attachments?name=large", raw(strings.Repeat("x", attach.MaxBytes+1)))
	assert.Equal(t, 413, status)
}

func TestWhatIsHandedInAndUsedNowhereIsLimited(t *testing.T) {
	d := desked(t, func(h *house, k *client) int64 { return h.surveyed(k) })
	large := strings.Repeat("tide\n", attach.MaxBytes/5)
	for range 10 {
		d.handIn(d.writer, "large.txt", large)
	}
	status, text := d.writer.do("POST", d.at+"/attachments?name=one-more.txt", raw(large))
	assert.Equal(t, 422, status, text)
	assert.Contains(t, text, "are in no text yet")
	d.handIn(d.reader, "of-another.txt", large)
}

func TestAttachmentsAreTakenAlong(t *testing.T) {
	d := desked(t, func(h *house, k *client) int64 { return h.surveyed(k) })
	tide := d.handIn(d.writer, "tide.png", picture(t))
	d.write(d.writer, any2{"kind": "repository"}, tide.Markdown)
	_, document := d.writer.do("GET", d.at+"/notes/annotations", nil)

	there := d.surveyed(d.keeper)
	require.NoError(t, d.store.SetRole(ctx, there, d.writer.person.ID, store.Writer))
	require.NoError(t, d.store.SetRole(ctx, there, d.reader.person.ID, store.Reader))
	d.at = fmt.Sprintf("/api/repositories/%d", there)
	brought := get[server.BroughtInfo](d.writer, "POST", d.at+"/notes/annotations", raw(document))
	assert.Equal(t, []int{1, 1, 0}, []int{brought.Added, brought.Files, brought.Passed}, "%v", brought.Problems)
	assert.Equal(t, 200, d.file(d.reader, tide.UID).StatusCode)
	_, again := d.writer.do("GET", d.at+"/notes/annotations", nil)
	assert.Equal(t, document, again)

	lies := strings.Replace(document, `"juxtagram:attachments":[`, `"juxtagram:attachments":[{"id":"urn:x-juxtagram:attachment:unused000","name":"a","value":"AAAA"},{"id":"urn:x-juxtagram:attachment:../../x","name":"b","value":"AAAA"},`, 1)
	brought = get[server.BroughtInfo](d.writer, "POST", d.at+"/notes/annotations", raw(lies))
	assert.Len(t, brought.Problems, 2)
}
